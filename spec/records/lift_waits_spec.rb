# frozen_string_literal: true

# A branch takes over from its limb, whose top comes off above it: not before the branch lives.
RSpec.describe Vestry::Records::PlanLimb, "of a top that comes off above what takes over" do
  let(:here) { orchard }
  let(:standing) { tree(here) }
  let(:old) { limb(standing, "D", girth_mm: 220) }
  let!(:branch) { limb(standing, "D1", parent_id: old.id, fork_mm: 500, bearing_deg: 0, girth_mm: 90, length_mm: 900) }
  let(:today) { World::TODAY }

  before { Vestry::Deeds::TakeOver.call(branch, by: "Orla", first: 2026) }

  def row = Vestry::Records::Limb[old.id].planned
  def headline(on = today) = Vestry::Web::Headline.new(Vestry::Records::Orchard[here.id], on).limb(row.limb)
  def faults(on = today)
    Vestry::Records::TreePlan.new(Vestry::Records::Tree[standing.id], on).faults
      .select { |each| each[:code] == "plan_lift_waits" }
  end

  def made(**facts) = graft(branch, grafted_on: Date.new(2026, 4, 20), cut_mm: 300, stub_mm: 24, **facts)

  it "waits for its season, and in that for a graft that has taken" do
    expect([2026, 2027, 2028].map { |season| row.lift_waits(season) })
      .to eq [nil, nil, { branch: "D1", state: "unworked" }]
    expect([faults, headline]).to eq [[], "A1 D is to come off in 2028."]
    one = made
    expect([2027, 2028].map { |season| row.lift_waits(season) }).to eq [nil, { branch: "D1", state: "waiting" }]
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: one.id, season: 2026, alive: true,
                                  tallied_on: Date.new(2026, 10, 1), tallied_by: "Tam")
    expect(Vestry::Records::Graft[one.id].fate).to eq "took"
    expect(row.lift_waits(2028)).to be_nil
    expect(faults(Date.new(2028, 2, 1))).to eq []
  end

  it "stays at once where the graft died or the branch is gone, until it is decided again" do
    one = made(lost_on: today - 5, lost_cause: "unknown")
    expect(faults.map { |each| each.slice(:tag, :season, :branch, :state) })
      .to eq [{ tag: "D", season: 2028, branch: "D1", state: "lost" }]
    expect(headline).to eq "A1 D is to come off in 2028 above D1, where the graft died: leave its top on."
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[branch.id],
                                   { role: "work", technique: "four-flap", cut: 200.0, season: 2027,
                                     variety: one.variety_id },
                                   by: "Orla", season: 2026)
    expect([faults, row.lift_waits(2028)]).to eq [[], { branch: "D1", state: "unworked" }]
    branch.update(gone_on: today)
    expect(row.lift_waits(2026)).to eq(branch: "D1", state: "gone")
  end

  it "is nothing to what is lifted whole, was sawn, or has a branch that is nobody's to graft" do
    Vestry::Records::Limb[branch.id].planned.update(role: "nurse")
    expect(row.lift_waits(2028)).to be_nil
    row.update(cut_mm: nil)
    expect(row.lift_waits(2028)).to be_nil
  end

  it "is told of many with as few questions as of one" do
    asked = lambda do
      Vestry::DB[:plan_limbs].where(role: "lift").update(season: 2026)
      now = Vestry::Records::Orchard[here.id]
      before = Vestry::Records::QueryCount.so_far
      tops = now.planned(:cuts, 2026).rows.select { |each| each.role == "lift" }
      [tops.map { |each| each.lift_waits(2026)&.fetch(:state) }, Vestry::Records::QueryCount.so_far - before]
    end
    few = asked.call
    4.times do |at|
      top = limb(standing, "E#{at}", girth_mm: 220)
      Vestry::Deeds::TakeOver.call(limb(standing, "F#{at}", parent_id: top.id, fork_mm: 500, girth_mm: 90), by: "Orla",
                                                                                                          first: 2026)
    end
    expect(asked.call).to eq [["unworked"] * 5, few.last]
  end
end
