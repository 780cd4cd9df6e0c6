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

  it "lets a limb that hangs to the ground, and what grows on it, lie there" do
    low = limb(tree(orchard), "A", fork_mm: 200, rise_deg: -30, length_mm: 3000)
    on_it = [300, 2000].map do |at|
      limb(low.tree, "B#{at}", parent_id: low.id, fork_mm: at, rise_deg: -90)
    end
    expect(on_it.map { |each| each.fork_height_mm.round }).to eq [50, 0]
    expect([low, *on_it].map(&:tip_height_mm)).to all(be >= 0)
  end
end
