# frozen_string_literal: true

RSpec.describe Vestry::Deeds::PaceTree do
  let(:here) { orchard }
  let(:standing) { tree(here) }

  before do
    { "A" => [0, 250], "B" => [90, 230], "C" => [180, 240], "D" => [270, 210], "E" => [310, 190] }
      .each do |tag, (bearing, girth)|
      limb(standing, tag, bearing_deg: bearing, girth_mm: girth, rise_deg: 50)
    end
  end

  def plan = Vestry::Records::TreePlan.new(standing.reload, Date.new(2026, 2, 1))
  def pace = Vestry::Records::TreePace.new(plan)
  def chosen(count) = described_class.call(standing, count, by: "Orla Finch", today: Date.new(2026, 2, 1))
  def planned = Vestry::Records::PlanLimb.in_sight.all.to_h { |row| [row.limb.tag, [row.role, row.season]] }

  it "shares the work out over one, two and three seasons, all of it and evenly" do
    ways = pace.ways
    expect(ways.map(&:count)).to eq [1, 2, 3]
    ways.each { |way| expect(way.seasons.flatten.map(&:tag)).to match_array pace.work.map(&:tag) }
    expect(ways.map { |way| way.removed.max }).to eq(ways.map { |way| way.removed.max }.sort.reverse)
    expect(ways.map { |way| way.shoots.first }).to eq(ways.map { |way| way.shoots.first }.sort.reverse)
  end

  it "gives every limb its role and season, and keeps what was decided about it" do
    kind = variety(here)
    first = pace.work.first
    Vestry::Deeds::DecideLimb.call(first, { role: "work", technique: "rind", cut: 700.0, variety: kind.id },
                                 by: "Orla Finch", season: 2026)
    chosen(2)
    expect(planned.values.count { |role, season| role == "work" && season == 2026 }).to be_between(1, 3)
    expect(planned.values.select { |role, _| role == "later" }.map(&:last).uniq).to eq [2027]
    expect(planned.values.map(&:first)).to include "nurse"
    expect(Vestry::Records::PlanLimb.first(limb_id: first.id))
      .to have_attributes(technique: "rind", variety_id: kind.id, cut_mm: 700)
    expect(standing.reload.plan.seasons).to eq 2
    # Where and how is decided with it, where that was open and there is a place.
    open = Vestry::Records::PlanLimb.in_sight.where(role: %w[work later]).exclude(limb_id: first.id).all
    expect(open.map { |row| [row.cut_mm, row.technique].none?(&:nil?) }.uniq).to eq [true]
  end

  it "can be chosen again, and only moves seasons" do
    chosen(3)
    roles = planned.transform_values { |role, _| role == "later" ? "work" : role }
    chosen(1)
    expect(planned.transform_values(&:first)).to eq roles
    expect(planned.values.map(&:last).uniq).to eq [2026]
  end

  it "refuses a pace that cannot be kept" do
    expect { chosen(9) }.to raise_error(Vestry::Deeds::Refused)
    expect(Vestry::Records::PlanLimb.count).to eq 0
  end
end
