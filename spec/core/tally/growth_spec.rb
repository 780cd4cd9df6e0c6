# frozen_string_literal: true

RSpec.describe Vestry::Core::Tally::Growth do
  let(:book) { Vestry::Core::Rulebook.shipped }

  it "reaches as far as it grew last, and what was left of the years before; nowhere where nothing was measured" do
    keep = book.value("reckoning.scaffold.keep")
    expect([[], [400.0], [400.0, 500.0]].map { |grown| described_class.reach(grown, book) })
      .to eq [0.0, 400.0, 500.0 + 400.0 * keep]
  end

  it "knows no shoot longer than it can have grown" do
    expect([0, 1, 30, 120].map { |days| described_class.longest(days, book) }).to eq [100.0, 150.0, 1600.0, 6100.0]
  end

  it "holds the last figure at the pace of the last year" do
    keep = book.value("reckoning.scaffold.keep")
    expect(described_class.seasons_left(1000.0, [400.0], book)).to eq ((1000 - 400 * keep) / (400 * keep)).ceil
    expect(described_class.seasons_left(100.0, [400.0, 500.0], book)).to eq 0
  end
end
