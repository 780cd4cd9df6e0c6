# frozen_string_literal: true

RSpec.describe Vestry::Core::Tally::Growth do
  let(:book) { Vestry::Core::Rulebook.shipped }

  it "is the first figures where nothing was counted, and comes to what was counted" do
    weight = book.value("reckoning.projection.learn_strength")
    expect(described_class.learned([0.1, 0.4], {}, book).map { |share| share.round(9) }).to eq [0.1, 0.4]
    expect(described_class.learned([0.1, 0.4], { 1 => [0.8] * weight }, book).map { |share| share.round(9) })
      .to eq [0.1, 0.6]
    expect(described_class.learned([0.1, 0.4], { 1 => [0.8] * 10_000 }, book)[1]).to be_within(0.001).of(0.8)
  end

  it "holds the last figure from then on, and the first before" do
    curve = book.value("reckoning.projection.regrow")
    expect([-1, 0, curve.size - 1, curve.size + 5].map { |age| described_class.share(age, book) })
      .to eq [curve[0], curve[0], curve[-1], curve[-1]]
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
