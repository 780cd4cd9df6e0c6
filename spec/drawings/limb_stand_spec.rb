# frozen_string_literal: true

RSpec.describe Vestry::Drawings::DrawnLimb do
  let(:here) { orchard }
  let(:standing) { tree(here) }

  def decide(limb, **values)
    plan = standing.reload.plan || Vestry::Records::Plan.create(orchard_id: here.id, tree_id: standing.id)
    Vestry::Records::PlanLimb.create({ orchard_id: here.id, plan_id: plan.id, limb_id: limb.id,
                                       season: 2026 }.merge(values))
  end

  def states(**options)
    described_class.all(Vestry::Records::Tree[standing.id], planning: 2026, **options).to_h { |stand|
 [stand.limb.tag, stand.state] }
  end

  it "draws what is to be as it stands, until the drawing is of a later season" do
    decide(limb(standing, "A"), role: "work", cut_mm: 700)
    decide(limb(standing, "B"), role: "later", season: 2027, cut_mm: 700)
    expect(states).to eq("A" => "work", "B" => "later")
    expect(states(after: 2026)).to eq("A" => "coming", "B" => "later")
    expect(states(after: 2027)).to eq("A" => "coming", "B" => "coming")
  end

  it "leaves out what will have been lifted, and what grew on it" do
    gone = limb(standing, "A")
    limb(standing, "A1", parent_id: gone.id, fork_mm: 600, girth_mm: 90)
    decide(gone, role: "lift")
    limb(standing, "B")
    expect(states.keys).to eq %w[A A1 B]
    expect(states(after: 2026).keys).to eq ["B"]
  end

  it "keeps a branch that takes over when the old top comes off above it" do
    parent = limb(standing, "A")
    limb(standing, "A1", parent_id: parent.id, fork_mm: 600, girth_mm: 90)
    limb(standing, "A2", parent_id: parent.id, fork_mm: 1500, girth_mm: 60)
    decide(parent, role: "lift", cut_mm: 750, season: 2028)
    expect(states(after: 2028).keys).to eq %w[A A1]
    expect(states(after: 2027).keys).to eq %w[A A1 A2]
  end

  it "uses a place that is proposed only where none is decided" do
    decided = limb(standing, "A")
    open = limb(standing, "B")
    decide(decided, role: "work", cut_mm: 700)
    decide(open, role: "work")
    cuts = described_class.all(Vestry::Records::Tree[standing.id], planning: 2026, after: 2026,
        proposed: { decided.id => 900.0, open.id => 900.0 })
             .to_h do |stand|
      [stand.limb.tag, stand.cut_mm]
    end
    expect(cuts).to eq("A" => 700.0, "B" => 900.0)
  end
end
