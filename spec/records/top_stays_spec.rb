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
      .select { |each| each[:code] == "plan_top_stays" }
  end

  def made(**facts) = graft(branch, grafted_on: Date.new(2026, 4, 20), cut_mm: 300, stub_mm: 24, **facts)

  it "waits for its season, and in that for a graft that has taken" do
    expect([2026, 2027, 2028].map { |season| row.top_stays(season) })
      .to eq [nil, nil, { heir: "D1", state: "unworked" }]
    expect([faults, headline]).to eq [[], "A1 D is to come off."]
    one = made
    expect([2027, 2028].map { |season| row.top_stays(season) }).to eq [nil, { heir: "D1", state: "waiting" }]
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: one.id, season: 2026, alive: true,
                                  tallied_on: Date.new(2026, 10, 1), tallied_by: "Tam")
    expect(Vestry::Records::Graft[one.id].fate).to eq "took"
    expect(row.top_stays(2028)).to be_nil
    expect(faults(Date.new(2028, 2, 1))).to eq []
  end

  it "stays at once where the graft died or the branch is gone, until it is decided again" do
    one = made(lost_on: today - 5, lost_cause: "unknown")
    expect(faults.map { |each| each.slice(:tag, :season, :heir, :state) })
      .to eq [{ tag: "D", season: 2028, heir: "D1", state: "lost" }]
    expect(headline).to eq "A1 D is to come off above D1, where the graft died: leave its top on."
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[branch.id],
                                   { role: "work", technique: "four-flap", cut: 200.0, season: 2027,
                                     variety: one.variety_id },
                                   by: "Orla", season: 2026)
    expect([faults, row.top_stays(2028)]).to eq [[], { heir: "D1", state: "unworked" }]
    branch.update(gone_on: today)
    expect(row.top_stays(2026)).to eq(heir: "D1", state: "gone")
  end

  it "is nothing to what is lifted whole, was sawn, or has a branch that is nobody's to graft" do
    Vestry::Records::Limb[branch.id].planned.update(role: "nurse")
    expect(row.top_stays(2028)).to be_nil
    row.update(cut_mm: nil)
    expect(row.top_stays(2028)).to be_nil
  end
end
