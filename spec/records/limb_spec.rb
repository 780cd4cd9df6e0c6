# frozen_string_literal: true

RSpec.describe Vestry::Records::Limb do
  it "takes a leader that was not measured to reach to the top of its tree" do
    high = tree(orchard, height_mm: 4000)
    only = limb(high, "L", leader: true, length_mm: nil, girth_mm: 314.16)
    leader = ->(fork) { only.update(fork_mm: fork) }
    expect(leader[1500].length_mm).to eq 2500
    # One that begins at the top, or above it, was measured wrong: it is as long as its thickness makes likely.
    likely = 100 * Vestry::Core::Rulebook.shipped.value("reckoning.assumed.length_diameters")
    expect([4000, 4200].map { |fork| leader[fork].length_mm.to_f }).to all(be_within(1).of(likely))
  end

  it "leaves a limb on the trunk as long as its thickness makes likely, however high the tree is" do
    plain = limb(tree(orchard, height_mm: 4000), "A", fork_mm: 1500, length_mm: nil, girth_mm: 314.16)
    expect(plain.length_mm.to_f)
      .to be_within(1).of(100 * Vestry::Core::Rulebook.shipped.value("reckoning.assumed.length_diameters"))
  end
end
