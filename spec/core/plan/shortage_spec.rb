# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::Shortage do
  def stub(id, sticks, share, role = "work") = { id: id, sticks: sticks, share: share, role: role }
  def of(stubs, have) = described_class.of(stubs: stubs, have: have, stick_mm: 175)

  it "drops nothing when there is enough" do
    expect(of([stub(1, 2, 0.3), stub(2, 2, 0.2)], 4)).to include(short: 0, drop: [], enough: nil)
  end

  it "drops backups first, then what gives back least head for a stick" do
    stubs = [stub(1, 2, 0.4), stub(2, 2, 0.1), stub(3, 1, 0.3), stub(4, 2, 0.5, "backup")]
    expect(of(stubs, 7)[:drop]).to eq []
    expect(of(stubs, 6)[:drop]).to eq [4]
    expect(of(stubs, 4)[:drop]).to eq [4, 2]
    expect(of(stubs, 0)[:drop]).to eq [4, 2, 1, 3]
  end

  it "never asks to drop more when there is more wood" do
    random = Random.new(7)
    50.times do
      stubs = Array.new(8) { |i| stub(i, random.rand(1..4), random.rand, random.rand < 0.2 ? "backup" : "work") }
      drops = (0..stubs.sum { |each| each[:sticks] }).map { |have| of(stubs, have)[:drop].size }
      expect(drops).to eq drops.sort.reverse
    end
  end

  it "stretches the wood by the least change that is enough" do
    four = Array.new(4) { |i| stub(i, 2, 0.2) }
    expect(of(four, 4)[:enough]).to eq "thin"
    ones = Array.new(6) { |i| stub(i, 1, 0.2) }
    expect(of(ones, 4)[:enough]).to eq "short_sticks"
    expect(of(ones, 2)).to include(enough: "single_buds", single_buds: 8)
    expect(of(ones, 0)[:enough]).to be_nil
  end
end
