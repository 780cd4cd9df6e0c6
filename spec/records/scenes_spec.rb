# frozen_string_literal: true

# What the plan says of a limb, each with the figures of one case.
RSpec.describe "On the plan" do
  let(:here) { orchard }
  let(:may) { Date.new(2026, 5, 18) }

  def plan(standing, on = may) = Vestry::Records::TreePlan.new(Vestry::Records::Tree[standing.id], on)
  def fresh(branch) = Vestry::Records::Limb[branch.id]
  def reckon(name, **input) = Vestry::Core.reckoning(name).reckon(input)
  def codes(reasons) = reasons.map { |each| each[:code] }
  def decide(branch, **values)
    Vestry::Deeds::DecideLimb.call(branch, { role: "work" }.merge(values), by: "Orla", season: 2026)
  end

  it "a walnut stub of 90 mm on a cool day in May: warmth first, it bleeds, and two or three sticks beside one" do
    walnut = tree(here, species: "walnut")
    branch = limb(walnut, "A", girth_mm: 420, length_mm: 4000, rise_deg: 70, fork_mm: 1200)
    limb(walnut, "B", girth_mm: 700, length_mm: 6000, rise_deg: 60, bearing_deg: 200)
    decide(branch, technique: "inlay", cut: 1300.0, practice: "single",
           variety: variety(here, "Attic", species: "walnut").id,
                   against_reason: "for trial")
    told = plan(walnut)
    advice = Vestry::Records::StubAdvice.new(fresh(branch), planned: fresh(branch).planned, technique: "inlay",
                                             at_mm: 1300.0)
    expect(codes(told.ways(told.limbs.first))).to include("kind_bleeds", "kind_warm")
    expect(told.ways(told.limbs.first).find { |way| way[:code] == "kind_warm" }[:bag])
      .to eq(here.rulebook.practice("cover", here.school) != "foil-and-bag")
    takes = advice.stick_choices.to_h { |each| [each[:sticks], (each[:stub_take] * 100).round] }
    expect(takes.slice(1, 3)).to eq(1 => 45, 3 => 83)
    day = reckon("graft-day", species: "walnut", needs_slip: true, slip: { reached_on: "2026-05-01" },
                              days: [{ date: "2026-05-18", min_c: 8, max_c: 19 }])[:days].first
    expect(codes(day[:reasons])).to include "day_callus"
    # The other limb carries far more than half of the head: no word of balance.
    expect(codes(told.vigour(2026)[:reasons])).to include "vigour_nurse_too_strong"
    expect(codes(told.vigour(2026)[:reasons])).not_to include "vigour_well"
  end

  it "a limb of 200 mm: its branches first, its side, and a ring with years to close; and a tree with no other limb" do
    standing = tree(here)
    big = limb(standing, "A", girth_mm: 640, length_mm: 5000, rise_deg: 60)
    alone = codes(plan(standing).ways(fresh(big)))
    expect(alone).to eq %w[limb_only large_branches large_side large_ring limb_taper]
    limb(standing, "A1", girth_mm: 190, length_mm: 1800, fork_mm: 3500, parent_id: big.id)
    limb(standing, "A2", girth_mm: 90, length_mm: 900, fork_mm: 4000, parent_id: big.id)
    told = plan(standing)
    ways = told.ways(told.limbs.find { |each| each.tag == "A" })
    expect(ways.first).to include(code: "large_branches", tags: ["A1"])
    ring = ways.find { |way| way[:code] == "large_ring" }
    expect(ring[:sticks]).to eq 5
    expect(ring[:seasons]).to be > 3
    expect(told.limbs.map { |each| told.ways(each).size }).to eq [4, 0, 0]
  end

  it "four arms on a wall at once: half of them now, near the trunk, and their form back in one to three seasons" do
    wall = tree(here, species: "plum", form: "wall-trained", height_mm: 2400)
    arms = %w[A B C D].each_with_index.map do |tag, i|
      limb(wall, tag, girth_mm: 60, length_mm: 1600, rise_deg: 5, bearing_deg: i.even? ? 90 : 270,
           fork_mm: 600 + 300 * (i / 2))
    end
    told = plan(wall)
    way = told.ways(told.limbs.first).find { |each| each[:code] == "limb_trained" }
    expect(way[:seasons]).to be_between(1, 3)
    cut = Vestry::Records::CoreInputs.cut_point(fresh(arms.first), "rind")
    cleft = Vestry::Records::CoreInputs.cut_point(fresh(arms.first), "cleft")
    expect(cleft).to include(feasible: true, at_mm: cleft[:from_mm])
    expect(cut[:feasible] ? cut[:at_mm] : 100).to be <= 120
    plum = variety(here, "Ferry", species: "plum")
    arms.each do |arm|
      decide(arm, technique: "cleft", cut: cleft[:at_mm].ceil + 1.0, practice: "single", variety: plum.id)
    end
    expect(plan(wall).faults).to include(include(code: "plan_all_arms", arms: 4, of: 4))
    arms.last(2).each { |arm| decide(fresh(arm), role: "later", season: 2027) }
    expect(codes(plan(wall).faults)).not_to include "plan_all_arms"
  end

  it "a leader of 75 mm with nurses at 900 and 1100 mm is cut above both" do
    standing = tree(here)
    leader = limb(standing, "L", girth_mm: 236, length_mm: 3500, rise_deg: 85, fork_mm: 700)
    [900, 1100].each_with_index do |at, i|
      side = limb(standing, "L#{i}", girth_mm: 80, length_mm: 900, fork_mm: at, parent_id: leader.id)
      decide(side, role: "nurse")
    end
    cut = Vestry::Records::CoreInputs.cut_point(fresh(leader), "cleft")
    expect(cut[:limits].find { |limit| limit[:name] == "nurse" }[:from_mm]).to eq 1400.0
    expect(cut[:at_mm]).to be >= 1400
    expect { decide(fresh(leader), technique: "cleft", cut: 1000.0, practice: "single", variety: variety(here).id) }
      .to raise_error(Vestry::Deeds::Refused) { |refused| expect(refused.errors[:cut].first).to include("nurse") }
  end

  it "an 85 mm stub whose bark does not lift: a cleft with two sticks" do
    branch = limb(tree(here), "A", girth_mm: 300, length_mm: 3000, rise_deg: 70)
    found = Vestry::Records::ChangedStub.new(fresh(branch), may, stub_mm: 85.0, slipping: false)
    expect([found.row[:method], found.sticks[:count]]).to eq ["cleft", 2]
  end

  it "an upright stub of 60 mm shows one, two and a ring side by side" do
    branch = limb(tree(here), "A", girth_mm: 230, length_mm: 3000, rise_deg: 80)
    advice = Vestry::Records::StubAdvice.new(fresh(branch), planned: nil, technique: "rind", at_mm: 900.0)
    counts = %w[single pair ring].map { |practice| advice.count_by(practice) }
    expect(counts).to eq [1, 2, 3]
    choices = advice.stick_choices.first(3)
    expect(choices.map { |each| each[:stub_take] }).to eq(choices.map { |each| each[:stub_take] }.sort)
    expect(choices.map { |each| each[:seasons_to_close] }.uniq.size).to be > 1
  end

  it "a plum of 12 mm before slip: a whip to one side or a thin cleft, and no approach without a donor" do
    ranking = reckon("methods", stock_mm: 12, scion_mm: 9, slipping: false, species: "plum")[:ranking]
    usable = ranking.reject { |each| each[:blocked] }.map { |each| each[:method] }
    expect(usable).to include("cleft", "whip-and-tongue")
    expect(usable).not_to include "approach"
    whip = ranking.find { |each| each[:method] == "whip-and-tongue" }
    expect(codes(whip[:reasons])).to include "scion_one_side"
  end
end
