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

  it "counts a graft that was made as known, and one that was lost as gone" do
    made = graft(stock.limbs.first, grafted_on: Date.new(2025, 4, 20))
    before = pace.foresights["standing"]
    made.update(lost_on: Date.new(2025, 7, 1), lost_cause: "unknown")
    lost = pace.foresights["standing"]
    ends = [before, lost].map { |told| told[:seasons].last[:living][:p90] }
    expect(ends.first).to be_within(1e-6).of(1.0)
    # A third of the head is gone with it.
    expect(ends.last).to be_within(0.02).of(2 / 3.0)
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
end
