# frozen_string_literal: true

RSpec.describe Vestry::Records::Kept do
  it "answers once for the same mark, keeps no more than a few, and lets go what was not asked for longest" do
    kept = described_class.new(3)
    asked = []
    ask = ->(mark) { kept.fetch([mark]) { asked << mark && mark * 2 } }
    expect([1, 2, 3, 1, 4, 1, 2].map { |mark| ask.call(mark) }).to eq [2, 4, 6, 2, 8, 2, 4]
    expect(asked).to eq [1, 2, 3, 4, 2]
    described_class.forget
    ask.call(1)
    expect(asked.last).to eq 1
  end

  it "keeps nothing as well as something" do
    kept = described_class.new(2)
    expect([kept.fetch(:a) { nil }, kept.fetch(:a) { raise "asked again" }]).to eq [nil, nil]
  end
end
