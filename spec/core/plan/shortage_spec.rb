# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::Shortage do
  def stub(id, sticks, share, role = "work", mm: 60)
    { id: id, sticks: sticks, share: share, role: role, take: 0.6, stock_mm: mm }
  end
  def of(stubs, have) = described_class.of(stubs: stubs, have: have, stick_mm: 175)

  it "drops nothing when there is enough" do
    expect(of([stub(1, 2, 0.3), stub(2, 2, 0.2)], 4)).to include(short: 0, drop: [], enough: nil,
                                                                 allotted: { 1 => 2, 2 => 2 })
  end

  it "gives sticks where they do most, backups last, and names those that go without, first to go first" do
    stubs = [stub(1, 2, 0.4), stub(2, 2, 0.1), stub(3, 1, 0.3), stub(4, 2, 0.5, "backup")]
    expect(of(stubs, 7)[:drop]).to eq []
    # .24, .18, .096 (a second on the first), .06, .024, and then the backup.
    expect(of(stubs, 5)[:drop]).to eq [4]
    expect(of(stubs, 3)).to include(drop: [4, 2], allotted: { 1 => 2, 2 => 0, 3 => 1, 4 => 0 })
    expect(of(stubs, 0)[:drop]).to eq [4, 2, 3, 1]
  end

  it "serves a limb of unknown size like the mean of the others, and counts in any unit" do
    unknown = [stub(1, 2, nil), stub(2, 2, nil), stub(3, 2, nil)]
    expect(of(unknown, 5)).to include(drop: [], allotted: { 1 => 2, 2 => 2, 3 => 1 })
    expect(of(unknown, 2)[:drop]).to eq [3]
    # Of 0.4 and 0.2 the mean is 0.3; and in mm² all is the same.
    [1, 0.0, 90_000].each do |unit|
      shares = unit.zero? ? [0.0, 0.0, 0.0] : [0.4 * unit, nil, 0.2 * unit]
      expect(of(shares.each_with_index.map { |share, i| stub(i, 1, share) }, 2)[:drop]).to eq [2]
    end
  end

  it "three sticks for nine stubs go to the best three limbs, and one bud each would serve more" do
    stubs = Array.new(9) { |i| stub(i, 2, 0.05 + i * 0.01) }
    answer = of(stubs, 3)
    expect(answer[:allotted].select { |_, count| count.positive? }).to eq(6 => 1, 7 => 1, 8 => 1)
    expect(answer[:drop]).to eq [0, 1, 2, 3, 4, 5]
    expect([answer[:one_bud], answer[:enough]]).to eq [6, nil]
    expect(of(stubs, 5)[:enough]).to eq "one_bud"
  end

  it "never asks to drop more when there is more wood" do
    random = Random.new(7)
    50.times do
      stubs = Array.new(8) { |i| stub(i, random.rand(1..4), random.rand, random.rand < 0.2 ? "backup" : "work") }
      drops = (0..stubs.sum { |each| each[:sticks] }).map { |have| of(stubs, have)[:drop].size }
      expect(drops).to eq drops.sort.reverse
    end
  end

  it "stretches the wood by the least change that is enough, and by what fits the place" do
    four = Array.new(4) { |i| stub(i, 2, 0.2) }
    expect(of(four, 4)[:enough]).to eq "thin"
    ones = ->(mm) { Array.new(6) { |i| stub(i, 1, 0.2, mm: mm) } }
    expect(of(ones[60], 4)[:enough]).to eq "short_sticks"
    expect(of(ones[60], 3)[:enough]).to eq "one_bud"
    expect(of(ones[60], 2)[:enough]).to be_nil
    expect(of(ones[12], 2)).to include(enough: "single_buds", single_buds: 8)
    expect(of(ones[12], 0)[:enough]).to be_nil
  end
end
