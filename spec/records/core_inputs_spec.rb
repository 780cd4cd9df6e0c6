# frozen_string_literal: true

RSpec.describe Vestry::Records::CoreInputs do
  # A low limb beside two that stand high, above where sheep reach.
  def roles(**facts)
    standing = tree(orchard, **facts)
    low = limb(standing, "A", fork_mm: 700, rise_deg: 0, length_mm: 1500)
    limb(standing, "B", bearing_deg: 210)
    limb(standing, "C", bearing_deg: 330)
    found = described_class.head(Vestry::Records::Tree[standing.id])[:candidates][low.id]
    [found[:role], found[:reasons].map { |reason| reason[:code] }]
  end

  it "has a limb off that hangs where it is browsed, but for a tree that is trained low to a wall" do
    expect(roles).to match ["lift", ["head_under_browse"]]
    expect(roles(form: "wall-trained").last).not_to include "head_under_browse"
  end

  it "takes a trunk of which nothing was measured to be a metre high, and as thick as its limbs let it be" do
    trunk = ->(limbs, **facts) { described_class.trunk(tree(orchard, trunk_girth_mm: nil, **facts), limbs, nil) }
    expect(trunk[[], height_mm: nil]).to match(height_mm: 1000.0, base_mm: be_within(1e-9).of(108), top_mm: 60)
    expect(trunk[[], height_mm: 3000][:height_mm]).to eq 1500.0
    two = [{ parent: nil, fork_mm: 800.0, diameter_mm: 70.0 }, { parent: nil, fork_mm: 1100.0, diameter_mm: 50.0 },
           { parent: 1, fork_mm: 1900.0, diameter_mm: 20.0 }]
    expect(trunk[two, height_mm: nil]).to match(height_mm: 1100.0, base_mm: be_within(1e-9).of(126), top_mm: 70.0)
    thin = described_class.trunk(tree(orchard, trunk_girth_mm: 200), two, nil)
    expect(thin.values_at(:base_mm, :top_mm)).to match [be_within(1e-9).of(200 / Math::PI),
                                                        be_within(1e-9).of(160 / Math::PI)]
  end
end
