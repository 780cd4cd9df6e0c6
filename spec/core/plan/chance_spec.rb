# frozen_string_literal: true

# Draws against the moments of a Beta distribution: its mean, and mean x (1 - mean) / (strength + 1).
RSpec.describe Vestry::Core::Plan::Chance do
  [[0.6, 6], [0.3, 20], [0.5, 1.2]].each do |mean, strength|
    it "draws about #{mean} as widely as #{strength} sights leave open" do
      random = Random.new(5)
      draws = Array.new(20_000) { described_class.beta(mean, strength, random) }
      middle = draws.sum / draws.size
      spread = draws.sum { |each| (each - middle)**2 } / draws.size
      expect(draws).to all(be_between(0, 1))
      expect(middle).to be_within(0.008).of(mean)
      expect(spread / (mean * (1 - mean) / (strength + 1))).to be_within(0.03).of(1)
    end
  end

  it "leaves what is certain as it is" do
    expect([0.0, 1.0].map { |mean| described_class.beta(mean, 6, Random.new(1)) }).to eq [0.0, 1.0]
  end
end
