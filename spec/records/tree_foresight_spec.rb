# frozen_string_literal: true

RSpec.describe Vestry::Records::TreeForesight do
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let(:amber) { variety(here, "Amber") }
  let(:today) { World::TODAY }

  def decide(tag, bearing, season: 2026)
    limb(stock, tag, bearing_deg: bearing, girth_mm: 220).tap do |each|
      Vestry::Deeds::DecideLimb.call(each, { role: "work", technique: "rind", cut: 700.0, variety: amber.id,
                                             season: season }, by: "Orla", season: 2026)
    end
  end

  def pace(on = today)
    fresh = Vestry::Records::Tree[stock.id]
    Vestry::Records::TreePace.new(Vestry::Records::TreePlan.new(fresh, on))
  end

  before do
    decide("A", 0)
    decide("B", 120, season: 2027)
    limb(stock, "C", bearing_deg: 240, girth_mm: 220)
  end

  it "foresees each way and the plan as it stands, the same for whoever asks" do
    told = pace.foresights
    expect(told.keys).to eq %w[1 2 3 standing]
    expect(told.values.map { |way| way[:seasons].size }).to eq [10] * 4
    expect(pace.foresights).to eq told
    expect(told["standing"][:seasons].first[:living][:p90]).to be > told["1"][:seasons].first[:living][:p90]
    all = told.transform_values { |way| way[:all_took] }
    expect(all.values).to all(be_between(0.6, 1.0))
  end

  it "says the same of what feeds the roots in the second season as the futures do of what has grown back" do
    Vestry::Deeds::DecideLimb.call(stock.limbs.last, { role: "nurse" }, by: "Orla", season: 2026)
    plan = pace.plan
    a, b = stock.limbs.first(2)
    # Three limbs alike. A's stub stands at 700 mm of its 2400; what feeds it sets its shoot, and the shoot its foot.
    stub = 220 / Math::PI * (1 - 0.7 * 700 / 2400)
    shoot = 450 / (2 / 3.0 + 0.04)
    back = ((2.5 + 0.0095 * shoot) / stub)**2
    expect(plan.kept(2027)).to be_within(1e-6).of(1 / 3.0 + plan.outlook(a).stub_take * back / 3)
    expect([plan.share(a), plan.share(b)].map { |share| share.round(6) }).to eq [0.333333] * 2
  end

  it "takes nothing of the head, season by season and way by way, where a graft in the side leaves it on" do
    Vestry::Deeds::DecideLimb.call(stock.limbs.last, { role: "nurse" }, by: "Orla", season: 2026)
    Vestry::Deeds::DecideLimb.call(stock.limbs[1], { role: "work", technique: "side-bark", cut: 620.0,
                                                     variety: amber.id, season: 2027 }, by: "Orla", season: 2026)
    expect(pace.ways.map { |way| [way.feasible, way.removed.map { |share| share.round(2) }] }).to eq [[true, [0.33]]]
    expect(pace.plan.removed_by_season.values.map { |share| share.round(2) }).to eq [0.33, 0.0]
  end

  it "counts a graft that was made as known, and one that was lost as gone until it is decided again" do
    made = graft(stock.limbs.first, grafted_on: Date.new(2026, 4, 20), cut_mm: 700)
    before = pace.foresights["standing"]
    made.update(lost_on: Date.new(2026, 5, 10), lost_cause: "unknown")
    lost = pace.foresights["standing"]
    ends = [before, lost].map { |told| told[:seasons].last[:living][:p90] }
    expect(ends.first).to be_within(1e-6).of(1.0)
    # A third of the head is gone with it.
    expect(ends.last).to be_within(0.02).of(2 / 3.0)
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[made.limb_id], { role: "work", technique: "rind", cut: 640.0,
                                                                          variety: amber.id, season: 2027 },
                                   by: "Orla", season: 2026)
    living = pace.foresights["standing"][:seasons].map { |each| each[:living][:p90] }
    expect([living[0], living[9]]).to match [be < 0.7, be_within(0.05).of(1.0)]
  end

  it "has no role to offer a branch, and no reason" do
    branch = limb(stock, "C1", parent_id: stock.limbs.last.id, bearing_deg: 200, girth_mm: 90)
    plan = Vestry::Records::TreePlan.new(Vestry::Records::Tree[stock.id], today)
    expect([plan.role(branch), plan.reasons(branch)]).to eq [nil, []]
  end

  it "finds nothing standing over grafts in a season in which none is made" do
    plan = Vestry::Records::TreePlan.new(stock, today)
    expect([2026, 2031].map { |season| plan.vigour(season)[:reasons].first[:above] }).to match [be_positive, 0.0]
  end

  it "is blown out more often where gusts are stronger" do
    calm = pace.foresights["1"][:regrafts][:mean]
    Vestry::DB[:weather_days].multi_insert((1..5).map do |n|
      { orchard_id: here.id, day: Date.new(2025, 7, n), min_c: 9, max_c: 19, gust_ms: 29 }
    end)
    here.reload
    expect(pace.foresights["1"][:regrafts][:mean]).to be > calm * 1.2
  end

  it "takes a union that holds all round to bear more wind than one under bark" do
    winds = Hash.new { |all, technique| all[technique] = [] }
    allow(Vestry::Core::Plan::Foresee).to receive(:reckon).and_wrap_original do |reckon, asked, **rest|
      asked[:stubs].each { |stub| winds[stub[:group]] << stub[:wind] }
      reckon.call(asked, **rest)
    end
    Vestry::Records::PlanLimb.first.update(technique: "cleft")
    pace.foresights
    rind, cleft = winds.values_at("rind", "cleft").map(&:first)
    # Under bark it holds by six tenths of its section.
    expect(cleft).to eq(rind.map { |share| share * 0.6 })
  end

  describe "what it asks" do
    let(:asked) { [] }

    before do
      allow(Vestry::Core::Plan::Foresee).to receive(:reckon).and_wrap_original do |reckon, question, **rest|
        asked << question
        reckon.call(question, **rest)
      end
    end

    def question
      here.reload
      pace.foresights
      asked.last
    end

    # From the biofix on, so warm that each day gives the same.
    def spring(year, **weather)
      Vestry::DB[:weather_days].multi_insert((0..239).map do |n|
        { orchard_id: here.id, day: Date.new(year, 2, 1) + n, min_c: 9, max_c: 19, rain_mm: 0, gust_ms: 5, **weather }
      end)
    end

    it "draws from past years what a crew could work in each while bark slipped" do
      spring(2024)
      spring(2025, rain_mm: 40, gust_ms: 10)
      dry, wet = question[:years]
      # The usual gust is the middle of the years' strongest, and a load goes by its square.
      expect([wet, dry[:gust]]).to eq [{ minutes: 0.0, gust: 1.0 }, 0.25]
      here_now = Vestry::Records::Orchard[here.id].bark_forecast(today)
      opens, closes = here_now.opened("apple").first, here_now.closed_in("apple", Date.new(2024, 5, 1))
      expect([opens.year, closes.year]).to eq [2024, 2024]
      # Two people, six hours on each day but the end of the week.
      expect(dry[:minutes]).to eq((opens..closes).count { |day| !(day.saturday? || day.sunday?) } * 6 * 60 * 2.0)
      expect(dry[:minutes]).to be > 20_000
    end

    it "leaves other trees the hours that they have first" do
      spring(2025)
      expect(question[:busy]).to eq [0.0, 0.0, 0.0]
      far = tree(here, row: "B")
      near = tree(here, row: "0")
      [far, near].product(%w[A B C]).each do |other, tag|
        Vestry::Deeds::DecideLimb.call(limb(other, tag, girth_mm: 220, bearing_deg: tag.ord * 90 % 360),
                                       { role: "work", technique: "rind", cut: 700.0, variety: amber.id, season: 2026 },
                                       by: "Orla", season: 2026)
      end
      # Three stubs of the nearer tree alone, some twenty minutes each, in whole hours.
      expect(question[:busy]).to eq [60.0, 0.0, 0.0]
      # Buds of late summer take none of the spring's.
      Vestry::Records::PlanLimb.where(limb_id: near.limbs_dataset.select(:id)).update(technique: "shield-bud")
      expect(question[:busy]).to eq [0.0, 0.0, 0.0]
    end

    it "asks of a bud of late summer whether it takes, and not when bark slips in spring" do
      spring(2025)
      told = -> { question[:stubs].map { |stub| stub[:needs_slip] } }
      expect(told.call.uniq).to eq [true]
      Vestry::Records::PlanLimb.where(technique: "rind").update(technique: "shield-bud")
      expect(told.call).to include(false)
    end

    it "takes of a variety that stands nowhere the sticks that are over, and what young grafts give" do
      expect(question[:wood].map { |each| each.slice(:sticks, :a_winter) }).to eq [{ sticks: 0, a_winter: 0.0 }]
      Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: amber.id, season: 2026, sticks: 30,
                                          source: "a neighbour")
      wanted = Vestry::Records::PlanLimb.where(season: 2026).sum(:sticks)
      expect(question[:wood].first[:sticks]).to eq 30 - wanted
      graft(limb(tree(here), "A"))
      expect(question[:wood].first[:a_winter]).to be_within(1e-6).of 2.0
      limb(tree(here, variety_id: amber.id), "A", girth_mm: 300)
      expect(question[:wood]).to eq []
    end
  end
end
