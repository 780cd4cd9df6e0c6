# frozen_string_literal: true

RSpec.describe "Limbs to head for wood", :core do
  def limb(id, mm, tree: 1, fork: 1500, on_tree: 6)
    { id: id, tree: tree, diameter_mm: mm, fork_height_mm: fork, on_tree: on_tree }
  end

  def choose(limbs, shoots) = Vestry::Core::Wood::Heading.choose(limbs, shoots: shoots, reach_mm: 2400)

  it "takes the thick ones within reach first, as many as throw what is wanted, six shoots a limb" do
    limbs = [limb("thin", 25), limb("mid", 45), limb("thick", 70), limb("high", 90, fork: 2500)]
    expect(choose(limbs, 6)).to eq({ limbs: %w[thick], shoots: 6, short: 0 })
    expect(choose(limbs, 7)[:limbs]).to eq %w[thick mid]
    expect(choose(limbs, 18)).to eq({ limbs: %w[thick mid high], shoots: 18, short: 0 })
    expect(choose(limbs, 30)).to include(limbs: %w[thick mid high], short: 12)
    expect(choose(limbs, 0)).to eq({ limbs: [], shoots: 0, short: 0 })
  end

  it "leaves a tree half of its limbs" do
    limbs = (1..4).map { |n| limb(n, 80 - n, on_tree: 4) } + [limb(9, 40, tree: 2, on_tree: 1)]
    expect(choose(limbs, 60)[:limbs]).to eq [1, 2, 9]
  end
end
