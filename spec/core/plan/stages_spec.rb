# frozen_string_literal: true

RSpec.describe "stages" do
  let(:limbs) do
    [%w[A .24 10 1500], %w[B .20 130 1700], %w[C .18 250 2000], %w[D .14 190 2300]]
      .map do |id, share, bearing, height|
        { id: id, share: share.to_f, bearing_deg: bearing.to_f, height_mm: height.to_f }
      end
  end

  def stages(of: limbs, cap: 0.45, seasons_max: 3) = reckon("stages", limbs: of, cap: cap, seasons_max: seasons_max)

  # Every way of putting limbs into seasons, and the least cost among those that fit.
  def exhaustive(limbs, cap, count)
    low, high = limbs.map { |each| each[:height_mm] }.minmax
    (0...count).to_a.repeated_permutation(limbs.size).filter_map do |seasons|
      next if seasons.uniq.size < count

      taken = (0...count).map { |season| limbs.each_index.select { |i| seasons[i] == season }.map { |i| limbs[i] } }
      removed = taken.map { |all| all.sum { |each| each[:share] } }
      next if removed.any? { |each| each > cap + 1e-9 }

      leans = taken.map do |all|
        all.sum { |each| each[:share] * Complex.polar(1, each[:bearing_deg] * Math::PI / 180) }.abs
      end
      late = limbs.each_with_index.sum do |each, i|
        each[:share] * (high > low ? (each[:height_mm] - low) / (high - low) : 0) * seasons[i]
      end
      removed.max + 0.5 * leans.sum / count + 0.3 * late
    end.min
  end

  it "works out the example" do
    answer = stages
    expect(answer[:seasons].map(&:sort)).to eq [%w[B C], %w[A D]]
    expect(answer[:cost]).to be_within(1e-6).of(0.494697)
    expect(answer[:removed].map { |each| each.round(6) }).to eq [0.38, 0.38]
  end

  it "costs what an exhaustive search finds, in the fewest seasons" do
    one = PropCheck::Generators.tuple(PropCheck::Generators.choose(2..30), PropCheck::Generators.choose(0..359),
                                      PropCheck::Generators.choose(0..40))
    trees = PropCheck::Generators.tuple(PropCheck::Generators.array(one, min: 1, max: 6),
                                        PropCheck::Generators.choose(20..80))
    PropCheck.forall(trees) do |(drawn, cap)|
      some = drawn.each_with_index.map { |(share, bearing, height), i| { id: i, share: share / 100.0,
        bearing_deg: bearing.to_f, height_mm: height * 100.0 } }
      answer = stages(of: some, cap: cap / 100.0, seasons_max: 3)
      costs = (1..[3, some.size].min).map { |count| exhaustive(some, cap / 100.0, count) }
      best = costs.compact.first
      expect(answer[:feasible]).to eq !best.nil?
      next unless best

      expect(answer[:cost]).to be_within(1e-9).of(best)
      expect(answer[:seasons].size).to eq costs.index(best) + 1
      expect(answer[:seasons].flatten.sort).to eq(some.map { |each| each[:id] })
    end
  end

  it "says which limb, what cap or how many seasons would do" do
    expect(stages(cap: 0.2)[:reasons].first).to include(code: "stages_limb_over_cap", limb: "A")
    tight = stages(cap: 0.3, seasons_max: 2)
    expect(tight).to include(feasible: false, seasons: [])
    expect(tight[:reasons]).to include({ code: "stages_more_seasons", seasons: 4 })
    cap = tight[:reasons].last[:cap]
    expect([stages(cap: cap, seasons_max: 2)[:feasible], stages(cap: cap - 0.01, seasons_max: 2)[:feasible]])
      .to eq [true, false]
  end

  it "answers for large trees too, within the cap, and says that it is not exact" do
    many = (0...20).map { |i| { id: i, share: 0.05, bearing_deg: (i * 137.5) % 360, height_mm: 1000 + i * 90 } }
    answer = stages(of: many, cap: 0.5, seasons_max: 3)
    expect(answer).to include(feasible: true, exact: false)
    expect(answer[:removed]).to all(be <= 0.5 + 1e-9)
    expect(answer[:seasons].flatten.sort).to eq (0...20).to_a
  end

  # The least load that the fullest of two seasons can have, over every way of parting the limbs.
  def halves(shares)
    (0...1 << (shares.size - 1)).map { |set| shares.each_index.sum { |i| set[i] == 1 ? shares[i] : 0.0 } }
      .map { |one| [one, shares.sum - one].max }.min
  end

  it "knows of up to sixteen limbs whether a number of seasons does, and the least cap that would" do
    random = Random.new(22)
    12.times do |round|
      count = 13 + round % 4
      sizes = Array.new(count) { 1 + random.rand(20) }
      some = sizes.each_with_index.map do |size, i|
        { id: i, share: size / sizes.sum.to_f, bearing_deg: random.rand(360).to_f, height_mm: 1000 + random.rand(2000) }
      end
      least = halves(some.map { |each| each[:share] })
      expect(stages(of: some, cap: [least + 1e-6, 1].min, seasons_max: 2)).to include(feasible: true)
      tight = stages(of: some, cap: least - 0.001, seasons_max: 2)
      expect(tight[:feasible]).to be false
      expect(tight[:reasons].last[:cap]).to be_within(2e-6).of(least)
    end
  end

  it "stops at its budget, with the best found and a bound that nothing goes below" do
    equal = (0...12).map do |i|
      { id: i, share: 1 / 12.0, bearing_deg: (i * 137.5) % 360, height_mm: 1000 + (i * 617 % 1500) }
    end
    answer = stages(of: equal, cap: 0.09, seasons_max: 12)
    expect(answer).to include(feasible: true, exact: false)
    expect(answer[:bound]).to be <= answer[:cost]
    expect(answer[:seasons].flatten.sort).to eq (0...12).to_a
    expect(stages(of: limbs)).to include(exact: true, bound: stages(of: limbs)[:cost])
  end

  it "says that it is not known, and never that it cannot be, where a packing of many limbs was not ruled out" do
    random = Random.new(3)
    answers = Array.new(3) do
      sizes = Array.new(30) { 0.5 + random.rand }
      some = sizes.each_with_index.map { |size, i| { id: i, share: size / sizes.sum, bearing_deg: 0.0, height_mm: 0 } }
      stages(of: some, cap: 0.2000001, seasons_max: 5)
    end
    expect(answers.map { |each| each[:feasible] }).to all(be(true).or(be_nil))
    expect(answers.select { |each| each[:feasible].nil? }.map { |each| each[:reasons].first[:code] }
      .uniq - ["stages_not_known"]).to eq []
  end

  it "decides twelve limbs exactly, and not at leisure" do
    twelve = (0...12).map do |i|
      { id: i, share: 0.05 + 0.005 * (i % 4), bearing_deg: (i * 137.5) % 360, height_mm: 1000 + (i * 617 % 1500) }
    end
    expect(stages(of: twelve, cap: 0.3, seasons_max: 3)).to include(feasible: true, exact: true)
  end

  it "refuses no limbs, two of one id and no seasons" do
    expect(refusal("stages", limbs: [], cap: 0.5, seasons_max: 1).field).to eq "limbs"
    expect(refusal("stages", limbs: [limbs[0], limbs[0]], cap: 0.5, seasons_max: 1).field).to eq "limbs[1].id"
    expect(refusal("stages", limbs: limbs, cap: 0.5, seasons_max: 0).field).to eq "seasons_max"
    expect(refusal("stages", limbs: limbs, cap: 1.5, seasons_max: 2).field).to eq "cap"
  end
end
