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
end
