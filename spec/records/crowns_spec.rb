# frozen_string_literal: true

RSpec.describe Vestry::Records::Crowns do
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let(:plan) { Vestry::Records::Plan.create(orchard_id: here.id, tree_id: stock.id) }

  def crown = described_class.of(here, [stock.id], planning: 2026).fetch(stock.id).to_h { |limb| [limb.tag, limb] }
  def metres(point) = point.map { |side| side.round(3) }

  it "lays limbs out to bearing, and as long as they are from above" do
    limb(stock, "A", bearing_deg: 90, rise_deg: 0, length_mm: 2000)
    limb(stock, "B", bearing_deg: 180, rise_deg: 60, length_mm: 2000)
    expect(crown.transform_values { |each| [metres(each.from), metres(each.to)] })
      .to eq("A" => [[0, 0], [2, 0]], "B" => [[0, 0], [0, -1]])
  end

  it "begins a branch where it forks, and knows the states as a drawing of one tree does" do
    a = limb(stock, "A", bearing_deg: 90, rise_deg: 0, length_mm: 2000)
    limb(stock, "A1", parent_id: a.id, fork_mm: 500, bearing_deg: 0, rise_deg: 0, length_mm: 1000)
    expect(metres(crown["A1"].from)).to eq [0.5, 0]
    expect(metres(crown["A1"].to)).to eq [0.5, 1]
    plan.add_plan_limb(orchard_id: here.id, limb_id: a.id, role: "work", cut_mm: 1000)
    expect(crown["A"]).to have_attributes(state: "work", end_point: crown["A"].to)
    expect(metres(crown["A"].cut)).to eq [1, 0]
    made = graft(a, cut_mm: 600)
    expect(crown["A"].state).to eq "grafted"
    expect(metres(crown["A"].end_point)).to eq [0.6, 0]
    made.update(lost_on: Date.new(2026, 5, 20), lost_cause: Vestry::Deeds::RecordLoss::CAUSES.first)
    expect(crown["A"].state).to eq "lost"
    drawn = Vestry::Drawings::DrawnLimb.all(Vestry::Records::Tree[stock.id], planning: 2026)
      .to_h { |each| [each.limb.tag, each.state] }
    expect(crown.transform_values(&:state)).to eq drawn
  end

  it "says how a tree stands as a question over all trees does" do
    state = lambda do
      [described_class.state_of(crown.values), Vestry::Records::TreeQueries.tree_states(here.id, [stock.id])[stock.id]]
    end
    a = limb(stock, "A")
    expect(state.call).to eq %w[open open]
    plan.add_plan_limb(orchard_id: here.id, limb_id: a.id, role: "work")
    expect(state.call).to eq %w[planned planned]
    made = graft(a)
    expect(state.call).to eq %w[grafted grafted]
    made.update(lost_on: Date.new(2026, 5, 20), lost_cause: Vestry::Deeds::RecordLoss::CAUSES.first)
    expect(state.call).to eq %w[trouble trouble]
  end

  it "leaves out limbs that are gone, trees without limbs, and other orchards'" do
    limb(stock, "A", gone_on: Date.new(2026, 1, 1))
    expect(described_class.of(here, [stock.id], planning: 2026)).to eq({})
  end
end
