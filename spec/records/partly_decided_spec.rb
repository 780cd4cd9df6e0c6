# frozen_string_literal: true

# A tree of which one limb is decided: what is said of its seasons counts that limb, and not what the others offer.
RSpec.describe Vestry::Records::TreePlan do
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let(:amber) { variety(here, "Amber") }
  let!(:limbs) { [0, 120, 240].zip(%w[A B C]).map { |deg, tag| limb(stock, tag, bearing_deg: deg, girth_mm: 220) } }

  def plan = described_class.new(Vestry::Records::Tree[stock.id], World::TODAY)

  def decide(limb)
    Vestry::Deeds::DecideLimb.call(limb, { role: "work", technique: "rind", cut: 700.0, variety: amber.id,
                                           season: 2026 }, by: "Orla", season: 2026)
  end

  def seasons(plan)
    plan.removed_by_season.to_h { |season, share| [season, share.round(3)] }
  end

  it "stands as its limbs offer themselves while nothing is decided" do
    bare = plan
    expect([bare.as_decided.equal?(bare), bare.work.map(&:tag)]).to eq [true, %w[A B C]]
    expect(bare.faults).to eq []
  end

  it "takes in its seasons what is decided, and leaves the rest of the head on" do
    decide(limbs.first)
    stock.reload.plan.update(cap: 0.5)
    told = plan
    # Three limbs alike, one of them cut.
    expect(seasons(told.as_decided)).to eq(2026 => 0.333)
    expect(told.as_decided.work.map(&:tag)).to eq %w[A]
    # 450 mm, pushed by two thirds of the head and one stub.
    expect(told.as_decided.shoot_mm(limbs.first)).to be_within(0.1).of(450 / (2 / 3.0 + 0.04))
    expect(told.faults.map { |each| each[:code] }).not_to include("plan_long_shoots", "plan_over_cap")
    # The ways go on to share out every limb.
    expect([told.work.map(&:tag), seasons(told)]).to eq [%w[A B C], { 2026 => 1.0 }]
  end

  it "counts the limb that is looked at as it offers itself" do
    decide(limbs.first)
    told = plan
    expect(told.as_decided(limbs[1]).work.map(&:tag)).to eq %w[A B]
    expect(told.as_decided(limbs.first).work.map(&:tag)).to eq %w[A]
  end

  it "is itself where all of it is decided, and what is decided is one of the ways then" do
    decide(limbs.first)
    part = Vestry::Records::TreePace.new(plan)
    expect([part.decided_way, part.projections.fetch("standing")[:totals][:stubs]]).to eq [nil, 1]
    limbs.drop(1).each { |each| decide(each) }
    whole = Vestry::Records::TreePace.new(plan)
    expect([whole.decided.equal?(whole.plan), whole.decided_way.count]).to eq [true, 1]
  end

  it "foresees nothing of a plan that decides no graft" do
    Vestry::Deeds::DecideLimb.call(limbs.first, { role: "nurse" }, by: "Orla", season: 2026)
    pace = Vestry::Records::TreePace.new(plan)
    expect([pace.projections.key?("standing"), pace.projections.key?("1"), pace.worth]).to eq [false, true, nil]
  end
end
