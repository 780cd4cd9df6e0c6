# frozen_string_literal: true

RSpec.describe Vestry::Deeds::RecordLimbEvent do
  let(:here) { orchard }
  let(:standing) { tree(here) }
  let(:stock) { limb(standing, "A").tap { |each| each.update(length_mm: 2400) } }
  let(:today) { Date.new(2026, 8, 3) }

  def happens(kind, limb: stock, **more)
    described_class.call(limb, { kind: kind, happened_on: today }.merge(more), by: "Tam", today: today)
  end

  def refusal(...)
    happens(...)
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors
  end

  def branch(tag, at)
    Vestry::Records::Limb.create(orchard_id: here.id, tree_id: standing.id, parent_id: stock.id, tag: tag, fork_mm: at,
                                 girth_mm: 90, surveyed_on: stock.surveyed_on)
  end

  it "shortens what broke, takes what grew beyond with it, and leaves the rest" do
    low, high = branch("A1", 600), branch("A2", 1500)
    event = happens("broken", left_mm: 1200.0, note: "the gale")
    expect(event).to have_attributes(kind: "broken", left_mm: 1200, by: "Tam")
    expect([stock.reload.length_mm.to_f, low.reload.gone_on, high.reload.gone_on]).to eq [1200.0, nil, today]
    expect(Vestry::DB[:history].where(table_name: "limbs", row_id: stock.id).order(:id).last[:why]).to eq "broke"
  end

  it "leaves what stands as thick as it was, however often it is shortened, and gives that back when taken back" do
    inputs, base = Vestry::Records::CoreInputs, stock.girth_mm.to_f / Math::PI
    # A limb loses seven tenths of its thickness along what it grew.
    at = ->(mm, grown) { base * (1 - 0.7 * mm / grown) }
    told = ->(mm) { inputs.diameter_at(Vestry::Records::Limb[stock.id], mm).round(6) }
    expect(told[900]).to eq at[900, 2400].round(6)
    happens("broken", left_mm: 1200.0)
    first = Vestry::Records::LimbEvent.of(stock).last
    expect([told[900], told[1200]]).to eq([at[900, 2400], at[1200, 2400]].map { |mm| mm.round(6) })
    second = happens("headed", limb: Vestry::Records::Limb[stock.id], left_mm: 1000.0)
    expect(told[900]).to eq at[900, 2400].round(6)
    cut = inputs.cut_point(Vestry::Records::Limb[stock.id], "cleft")
    expect([cut[:diameter_mm].round(6), cut[:to_mm] <= 1000]).to eq [at[cut[:at_mm], 2400].round(6), true]
    happens("regrown", limb: Vestry::Records::Limb[stock.id], left_mm: 3000.0)
    expect(told[900]).to eq at[900, 3000].round(6)
    Vestry::Deeds::TakeBackEvent.call(Vestry::Records::LimbEvent.of(stock).last, by: "Tam")
    [second, first].each { |event| Vestry::Deeds::TakeBackEvent.call(event.refresh, by: "Tam") }
    expect(Vestry::Records::Limb[stock.id].values.slice(:length_mm, :whole_mm)).to eq(length_mm: 2400, whole_mm: nil)
  end

  it "has a stub that broke below its graft worked again below the break" do
    stock.update(length_mm: 2400)
    made = graft(stock, grafted_on: Date.new(2026, 4, 20), cut_mm: 1800)
    happens("broken", left_mm: 1200.0)
    lost = Vestry::Records::Graft[made.id]
    expect([lost.fresh_to_mm, lost.fresh_cut_mm, lost.no_room?]).to eq [1140.0, 1140.0, false]
    row = Vestry::Deeds::Regraft.call(lost, by: "Tam", today: today)
    expect(row.cut_mm.to_f).to eq 1140.0
    happens("broken", limb: Vestry::Records::Limb[stock.id], left_mm: 150.0)
    expect(Vestry::Records::Graft[made.id].no_room?).to be true
  end

  it "takes the whole limb off where nothing is left, and loses the grafts on it" do
    made = graft(stock, grafted_on: Date.new(2026, 4, 20), cut_mm: 700)
    happens("broken", left_mm: 0.0)
    expect([stock.reload.gone_on, made.reload.lost_on, made.lost_cause]).to eq [today, today, "blown-out"]
  end

  it "loses a graft that stood beyond what is left, and says where the graft's own growth broke instead" do
    made = graft(stock, grafted_on: Date.new(2026, 4, 20), cut_mm: 700)
    expect(refusal("broken", left_mm: 900.0)[:left_mm].first).to include("above its cut at 700 mm")
    happens("died-back", left_mm: 500.0)
    expect([made.reload.lost_cause, stock.reload.length_mm.to_f]).to eq ["unknown", 500.0]
  end

  it "turns a limb that was tied down, lets one grow again, and refuses what cannot be" do
    happens("tied-down", rise_deg: 15)
    expect(stock.reload.rise_deg.to_f).to eq 15.0
    happens("regrown", left_mm: 2600.0)
    expect(stock.reload.length_mm.to_f).to eq 2600.0
    expect(refusal("regrown", left_mm: 2600.0)[:left_mm].first).to include("no more than the 2.60 m that stood")
    expect(refusal("tied-down")).to include(:rise_deg)
    expect(refusal("broken")).to include(:left_mm)
    expect(refusal("broken", left_mm: 2700.0)[:left_mm].first).to include("more than the 2.60 m that stood")
    expect(refusal("headed", left_mm: 900.0, happened_on: today + 1)).to include(:happened_on)
    happens("broken", left_mm: 0.0)
    expect(refusal("broken", left_mm: 0.0)[:kind].first).to include("has come off")
  end

  it "is taken back whole: the limb, what grew on it and the graft are as they were, and nothing of it is told" do
    high = branch("A1", 1500)
    made = graft(stock, grafted_on: Date.new(2026, 4, 20), cut_mm: 700)
    event = happens("broken", left_mm: 500.0)
    Vestry::Deeds::TakeBackEvent.call(event, by: "Tam")
    expect([stock.reload.length_mm.to_f, high.reload.gone_on, made.reload.lost_on, made.lost_cause])
      .to eq [2400.0, nil, nil, nil]
    expect(Vestry::Records::LimbEvent.of(stock)).to eq []
    # Again, and it is no different.
    Vestry::Deeds::TakeBackEvent.call(event, by: "Tam")
    expect(stock.reload.length_mm.to_f).to eq 2400.0
  end

  it "is not taken back once something that it changed was changed since, and says what" do
    event = happens("broken", left_mm: 1200.0)
    stock.update(length_mm: 1000)
    expect { Vestry::Deeds::TakeBackEvent.call(event, by: "Tam") }
      .to raise_error(Vestry::Deeds::Refused, /A1 A was changed since: length/)
    expect(Vestry::Records::LimbEvent.of(stock.reload).size).to eq 1
  end

  it "takes a limb off that carries nothing living, and tells it with the rest" do
    made = graft(stock, grafted_on: Date.new(2026, 4, 20), cut_mm: 700)
    expect(refusal("taken-off", left_mm: 0)[:happened_on].first).to include("carries a living graft")
    made.update(lost_on: today, lost_cause: "unknown")
    Vestry::Deeds::TakeOff.call(stock, on: today, today: today, by: "Tam")
    expect(stock.reload.gone_on).to eq today
    expect(Vestry::Records::LimbEvent.of(stock).map(&:kind)).to eq ["taken-off"]
  end

  it "waits for a word until a plan or a graft says what becomes of it" do
    waiting = -> { Vestry::Records::BrokenLimbs.of(here, today).map { |event| [event.limb.label, event.kind] } }
    happens("broken", left_mm: 1200.0)
    happens("headed", left_mm: 1000.0)
    happens("tied-down", limb: limb(standing, "B"), rise_deg: 10)
    expect(waiting.call).to eq [["A1 A", "headed"]]
    expect(Vestry::Web::Headline.new(here, today).survey)
      .to eq "A1 A was headed back on 3 August: graft it, leave it to a branch, or renew it."
    board = Vestry::Records::TodayBoard.new(here, today)
    expect(board.matters.find { |matter| matter.station == "survey" }).to have_attributes(urgency: 2,
                                                                                         trees: [standing.id])
    Vestry::Deeds::DecideLimb.call(stock.reload, { role: "renew" }, by: "Orla", season: 2027)
    expect(waiting.call).to eq []
    other = limb(standing, "C", length_mm: 2000)
    happens("broken", limb: other, left_mm: 900.0)
    graft(other, grafted_on: today)
    expect([waiting.call, Vestry::Records::BrokenLimbs.of(here, today + 500)]).to eq [[], []]
  end

  it "keeps one that is sent twice at once once" do
    key = SecureRandom.uuid
    stock
    sent = Array.new(4) do
      Thread.new { happens("broken", limb: Vestry::Records::Limb[stock.id], left_mm: 900.0, client_key: key) }
    end
    sent.each(&:join)
    expect(Vestry::Records::LimbEvent.where(limb_id: stock.id).count).to eq 1
  end
end
