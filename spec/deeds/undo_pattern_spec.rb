# frozen_string_literal: true

# The planning of whole rows is taken back.
RSpec.describe Vestry::Deeds::UndoPattern do
  let(:here) { orchard }
  let(:today) { Date.new(2026, 2, 1) }
  let!(:kind) { variety(here) }

  def grown
    tree(here).tap do |tree|
      [0, 90, 180].each_with_index { |at, i| limb(tree, "ABC"[i], bearing_deg: at, rise_deg: 50, girth_mm: 230) }
    end
  end

  def lay(*trees)
    Vestry::Deeds::LayPattern.begin(here, { variety: kind.id, school: "waxed-rind", seasons: 2, replace: true },
                                    trees.map(&:id), by: "Orla", today: today).reload
  end

  def plan(tree) = Vestry::Records::Tree[tree.id].plan
  def back(pattern) = described_class.call(Vestry::Records::Pattern[pattern.id], by: "Orla")
  def outcomes(pattern)
    Vestry::Records::Pattern[pattern.id].outcomes
      .map { |each| [each["done"], each["notes"].map { |note| note["code"] }] }
  end

  it "leaves a tree without a plan where it had none, and gives one that had a plan that one again" do
    none, planned = grown, grown
    Vestry::Deeds::DecideLimb.call(planned.limbs.first, { role: "nurse" }, by: "Orla", season: 2026)
    plan(planned).update(purpose: "the old one")
    pattern = lay(none, planned)
    expect([plan(none), plan(planned)].map { |each| each.plan_limbs.size }).to eq [3, 3]
    expect(back(pattern)).to eq []
    expect(plan(none)).to be_nil
    expect(plan(planned).purpose).to eq "the old one"
    expect(plan(planned).plan_limbs.map { |row| [row.limb.tag, row.role] }).to eq [%w[A nurse]]
    expect(outcomes(pattern)).to eq [[false, ["pattern_taken_back"]]] * 2
    expect(back(pattern)).to eq []
    expect(planned.reload.plans.size).to eq 3
  end

  it "lets a version be the plan again where there is none in use" do
    none = grown
    laid = lay(none).outcomes[0]["plan"]
    back(Vestry::Records::Pattern.order(:id).last)
    Vestry::Deeds::NewVersion.again(Vestry::Records::Tree[none.id], Vestry::Records::Plan[laid], by: "Orla")
    expect(plan(none).plan_limbs.map { |row| row.limb.tag }.sort).to eq %w[A B C]
  end

  it "knows a plan that was changed since it was begun, by itself or by one of its limbs" do
    trees = Array.new(3) { grown }
    lay(*trees)
    plan(trees[1]).update(version: 2)
    plan(trees[2]).plan_limbs.last.update(version: 2)
    expect(trees.map { |tree| plan(tree).changed_since_begun? }).to eq [false, true, true]
  end

  it "leaves what was changed or worked since, and says which" do
    changed, worked, quiet = grown, grown, grown
    pattern = lay(changed, worked, quiet)
    Vestry::Deeds::NamePlan.call(changed.reload, purpose: "mine", school: nil, by: "Orla")
    stub = worked.limbs_dataset.first(tag: "A")
    graft(stub, grafted_on: Date.new(2026, 4, 21), variety_id: kind.id)
    expect(back(pattern)).to match_array [changed.label, worked.label]
    expect([plan(changed).purpose, plan(worked).nil?, plan(quiet)]).to eq ["mine", false, nil]
  end

  it "waits for the end of the planning" do
    pattern = lay(grown)
    pattern.update(state: "running")
    expect { back(pattern) }.to raise_error(Vestry::Deeds::Refused, /under way/)
  end

  it "takes back once, though two do at the same moment" do
    planned = grown
    Vestry::Deeds::DecideLimb.call(planned.limbs.first, { role: "nurse" }, by: "Orla", season: 2026)
    pattern = lay(planned)
    Array.new(2) { Thread.new { back(pattern) } }.each(&:join)
    expect(planned.reload.plans.size).to eq 3
    expect(Vestry::Records::Plan.where(tree_id: planned.id, superseded_at: nil).count).to eq 1
  end
end
