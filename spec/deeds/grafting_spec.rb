# frozen_string_literal: true

RSpec.describe "Planning and logging a graft" do
  let(:here) { orchard }
  let(:stock) { limb(tree(here)) }
  let(:kind) { variety(here) }
  let(:today) { World::TODAY }

  # Several on one limb and day are meant here.
  def log(**changed)
    values = { grafted_on: Date.new(2026, 4, 21), technique: "rind", variety_id: kind.id, stub_mm: 60.0, sticks: 2,
               grafter: "Orla", wrap: "stretch-tape",
               seal: "wax", cover: "wax-only", again: true }.merge(changed)
    Vestry::Deeds::LogGraft.call(stock, values, by: "Orla", today: today)
  end

  def refusal
    yield
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors
  end

  def plan(**values)
    Vestry::Deeds::DecideLimb.call(stock, { role: "work" }.merge(values), by: "Orla", season: 2026)
  end

  it "refuses a day in the future and a day before the survey" do
    expect(refusal { log(grafted_on: today + 1) }).to include(:grafted_on)
    expect(refusal { log(grafted_on: Date.new(2025, 1, 9)) }[:grafted_on].first).to include("10 January 2025")
    expect(Vestry::Records::Graft.count).to eq 0
  end

  it "says how many sticks a method has room for" do
    told = lambda do |technique, sticks|
      refused = refusal { log(technique: technique, sticks: sticks, stub_mm: 20.0, scion_mm: 20.0) }
      refused.to_h.values.flatten.filter_map { |words| words[/has room for [^.]+/] }
    end
    expect([told["four-flap", 2], told["cleft", 3]]).to eq [["has room for one stick"], ["has room for 2 sticks"]]
    expect([told["four-flap", 1], told["cleft", 2]]).to eq [[], []]
  end

  it "takes in a graft that stood before the survey, with the day it is known since, and does not count it" do
    old = { grafted_on: Date.new(2019, 4, 1), technique: "rind", stub_mm: 20.0 }
    expect(refusal { log(**old, known_since: today + 1) }).to include(:known_since)
    expect(refusal { log(**old, known_since: Date.new(2019, 3, 1)) }).to include(:known_since)
    made = log(**old, known_since: Date.new(2025, 1, 10))
    expect(made).to have_attributes(grafted_on: Date.new(2019, 4, 1), known_since: Date.new(2025, 1, 10),
                                    against_reason: nil)
    made.update(lost_on: nil)
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2025, alive: true,
                                  tallied_on: Date.new(2025, 10, 1))
    counted = -> { Vestry::Records::Outcomes.new(here, today, most: 50).counted.sum { |row| row[:trials] } }
    expect(counted.call).to eq 0
    made.update(known_since: nil)
    expect(counted.call).to eq 1
  end

  it "keeps a method that does not fit only with a reason" do
    expect(refusal { log(stub_mm: 20.0) }[:against_reason].first)
      .to match(/Rind graft works from 25 mm to 120 mm; this stub is 20 mm/)
    expect(log(stub_mm: 20.0, against_reason: "all the wood there was").against_reason).to eq "all the wood there was"
    expect(log(stub_mm: 60.0, against_reason: "left over").against_reason).to be_nil
  end

  it "takes a bud until the last day on which one is asked for, though bark closed long before" do
    here = orchard(latitude: 38.5, altitude_m: 60)
    one = limb(tree(here, species: "apricot"), "A", surveyed_on: Date.new(2026, 1, 10))
    last = here.last_days(Date.new(2026, 8, 10)).bud
    expect(last).to eq Date.new(2026, 9, 15)
    against = lambda do |on|
      Vestry::Deeds::SoundGraft.against(one, { technique: "chip-bud", grafted_on: on, stub_mm: 9, sticks: 1 })
    end
    expect([Date.new(2026, 8, 10), last].map(&against)).to eq [nil, nil]
    expect(against[last + 1]).to include "and 15 September; 16 September is out of season"
  end

  it "asks about a day out of season, and keeps it with a reason" do
    expect(refusal { log(grafted_on: Date.new(2026, 1, 20)) }[:against_reason].first)
      .to include("20 January is out of season", "kept with a reason")
    expect(log(grafted_on: Date.new(2026, 1, 20), against_reason: "a mild week").against_reason).to eq "a mild week"
    expect(refusal { log(grafted_on: Date.new(2026, 1, 20), technique: "cleft") }).to be_nil
    expect(refusal { log(grafted_on: Date.new(2025, 8, 20), technique: "chip-bud", stub_mm: 12.0, sticks: 1) })
      .to be_nil
  end

  it "takes down what grew beyond the cut, and only that" do
    beyond = limb(stock.tree, "A1", parent_id: stock.id, fork_mm: 1500, girth_mm: 90)
    twig = limb(stock.tree, "A11", parent_id: beyond.id, fork_mm: 200, girth_mm: 50)
    below = limb(stock.tree, "A2", parent_id: stock.id, fork_mm: 300, girth_mm: 90)
    log(cut_mm: 700)
    expect([beyond, twig, below].map { |each| each.reload.gone_on }).to eq [Date.new(2026, 4, 21)] * 2 + [nil]
  end

  it "reckons sticks and faces from the cut" do
    row = plan(technique: "rind", cut: 700.0, variety: kind.id, season: 2026)
    expect([row.sticks, row.faces.map(&:to_i)]).to eq [3, [-75, 0, 75]]
  end

  it "asks for a reason when the cut is where it should not be" do
    errors = refusal { plan(technique: "rind", cut: 200.0, variety: kind.id) }
    expect(errors[:cut].first).to include("within reach of the animals", "is clear")
    expect(plan(technique: "rind", cut: 200.0, variety: kind.id, against_reason: "guarded").against_reason)
      .to eq "guarded"
  end

  it "refuses a cut beyond the limb, and another orchard's variety" do
    expect(refusal { plan(technique: "rind", cut: 2400.0) }[:cut].first).to match(/beyond the limb's end/)
    expect(refusal { plan(technique: "rind", cut: 700.0, variety: variety(orchard).id) }).to include(:variety)
  end

  it "begins one plan for a tree, however many limbs are marked" do
    other = limb(stock.tree, "B")
    [stock, other].each { |each| Vestry::Deeds::DecideLimb.call(each, { role: "work" }, by: "Orla", season: 2026) }
    expect(Vestry::Records::Plan.count).to eq 1
  end

  it "settles a task once, takes it back, and refuses one that is not there" do
    made = log
    2.times { Vestry::Deeds::SettleTask.call(made, "slit-tape", "done", by: "Orla", today: today) }
    expect(Vestry::Records::TaskDone.in_sight.count).to eq 1
    Vestry::Deeds::SettleTask.undo(made, "slit-tape", by: "Orla")
    expect(Vestry::Records::TaskDone.in_sight.count).to eq 0
    expect(refusal { Vestry::Deeds::SettleTask.call(made, "nonsense", "done", by: "Orla", today: today) })
      .to include(:key)
  end

  it "corrects an autumn's tally instead of counting it twice" do
    made = log
    autumn = Date.new(2026, 10, 10)
    tally = ->(growth) { Vestry::Deeds::RecordTally.call(made, { tallied_on: autumn, alive: true, growth_mm: growth },
        by: "Orla", today: autumn) }
    tally[900]
    tally[950]
    expect(Vestry::Records::Tally.select_map(%i[season growth_mm])).to eq [[2026, 950]]
  end

  it "counts a bud that sleeps without growth, and nothing else" do
    autumn = Date.new(2026, 10, 10)
    tally = ->(made) { Vestry::Deeds::RecordTally.call(made, { tallied_on: autumn, alive: true }, by: "Orla",
                                                       today: autumn) }
    made = log
    expect(refusal { tally[made] }).to include(:growth_mm)
    bud = graft(limb(made.limb.tree, "Z"), technique: "chip-bud", sticks: 1, grafted_on: Date.new(2026, 8, 10))
    expect(tally[bud].values.slice(:alive, :growth_mm)).to eq(alive: true, growth_mm: nil)
  end

  it "counts an autumn's growth for its summer, also in winter, and the next one's apart" do
    made = log
    tally = ->(day, growth) { Vestry::Deeds::RecordTally.call(made, { tallied_on: day, alive: true, growth_mm: growth },
        by: "Orla", today: day) }
    tally[Date.new(2026, 11, 20), 900]
    tally[Date.new(2027, 2, 3), 920]
    tally[Date.new(2027, 10, 2), 700]
    expect(Vestry::Records::Tally.order(:season).select_map(%i[season growth_mm])).to eq [[2026, 920], [2027, 700]]
    row = ->(day) { Vestry::Records::CountRow.opens_on(here, day) }
    expect([Date.new(2026, 11, 20), Date.new(2027, 2, 3), Date.new(2027, 4, 1)].map(&row).map(&:year))
      .to eq [2026, 2026, 2027]
    open = [Date.new(2026, 9, 14), Date.new(2026, 9, 15), Date.new(2026, 11, 20), Date.new(2027, 2, 3)]
      .map { |day| Vestry::Records::CountRow.open?(here, day) }
    expect(open).to eq [false, true, true, false]
  end

  it "refuses a wound wider than the stub, or with one width" do
    made = log
    tally = ->(a, b) { refusal { Vestry::Deeds::RecordTally.call(made,
                                                                 { tallied_on: today, alive: true, growth_mm: 1,
                                                                   open_a_mm: a, open_b_mm: b }, by: "Orla",
                                                                   today: today) } }
    expect([tally[80, 50].keys, tally[50, nil].keys, tally[40, 50].keys])
      .to eq [[:open_a_mm], [:open_b_mm], [:open_b_mm]]
  end
end
