# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::ProposedMethod, :core do
  # On a limb of 2 m: where each method would be cut, and how thick that is; a method that is not named has no place.
  def proposed(methods, conflict: %w[diameter], **cuts)
    described_class.of(methods, length_mm: 2000.0, rulebook: Vestry::Core::Rulebook.shipped) do |method|
      at, across = cuts[method.tr("-", "_").to_sym]
      at ? { feasible: true, at_mm: at, diameter_mm: across, conflict: [] } : { feasible: false, conflict: conflict }
    end
  end

  # A rind graft is at its best from 30 to 80 mm and works from 25; a bark graft from 40 to 100.
  it "is the first that suits the wood" do
    expect(proposed(%w[bark rind], bark: [700.0, 60.0], rind: [700.0, 55.0])).to eq "bark"
    expect(proposed(%w[rind bark], rind: [900.0, 26.0], bark: [500.0, 60.0])).to eq "bark"
  end

  it "is short of the tip where any has a place there, and at the tip what suits that" do
    expect(proposed(%w[rind bark], rind: [1801.0, 50.0], bark: [1800.0, 60.0])).to eq "bark"
    expect(proposed(%w[rind bark], rind: [1990.0, 26.0], bark: [1990.0, 60.0])).to eq "bark"
  end

  it "leaves the head on last" do
    expect(proposed(%w[side-bark bark], side_bark: [500.0, 80.0], bark: [500.0, 60.0])).to eq "bark"
    expect(proposed(%w[side-bark bark], side_bark: [500.0, 80.0])).to eq "side-bark"
  end

  it "is asked of no more methods than it takes, and of all where none has a place" do
    asked = []
    described_class.of(%w[bark rind], length_mm: 2000.0, rulebook: Vestry::Core::Rulebook.shipped) do |method|
      asked << method
      { feasible: true, at_mm: 700.0, diameter_mm: 60.0, conflict: [] }
    end
    expect(asked).to eq %w[bark]
    expect(proposed(%w[bark rind])).to eq "bark"
  end
end
