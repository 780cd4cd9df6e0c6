# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::Packing do
  # More than are packed exactly.
  let(:many) { described_class::EXACT + 4 }

  it "knows that one season is enough for what fits into one, however many there are" do
    small = described_class.new([0.01] * many)
    expect([small.least(1.0), small.fewest(1.0), small.proved?(1.0)]).to eq [1, 1, true]
  end

  it "knows that each share above half of the cap wants a season of its own" do
    large = described_class.new([0.6] * many)
    expect([large.least(1.0), large.fewest(1.0), large.proved?(1.0)]).to eq [many, many, true]
  end

  it "claims no more than is proved between the two" do
    middling = described_class.new([0.4] * many)
    expect([middling.least(1.0), middling.fewest(1.0), middling.proved?(1.0)]).to eq [many * 2 / 5, many / 2, false]
  end

  it "takes as few seasons as every way of sharing them out shows" do
    random = Random.new(11)
    40.times do
      # Of few sizes, so that many sets fill a season alike.
      shares = Array.new(random.rand(1..6)) { random.rand(1..5) / 10.0 }
      few = (1..shares.size).find do |count|
        (0...count).to_a.repeated_permutation(shares.size).any? do |seasons|
          (0...count).all? { |one| shares.zip(seasons).sum { |share, at| at == one ? share : 0.0 } <= 0.5 + 1e-9 }
        end
      end
      expect([shares, described_class.new(shares).fewest(0.5)]).to eq [shares, few]
    end
  end

  it "packs into no season more than its cap, and every share once" do
    random = Random.new(3)
    shares = Array.new(9) { random.rand(0.05..0.5) }
    seasons = described_class.new(shares).assignment(0.6)
    loads = seasons.zip(shares).group_by(&:first).transform_values { |all| all.sum(&:last) }
    expect(seasons.size).to eq 9
    expect(loads.values).to all(be <= 0.6 + 1e-9)
    expect(loads.size).to eq described_class.new(shares).fewest(0.6)
  end
end
