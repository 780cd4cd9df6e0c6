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

  it "asks for what it lacks of many together, and answers in their order" do
    kept = described_class.new(4)
    asked = []
    many = ->(marks) { kept.many(marks) { |missing| asked << missing &&
                                          missing.to_h { |mark| [mark, mark && mark * 2] } } }
    expect(many.call([3, 1])).to eq(3 => 6, 1 => 2)
    expect(many.call([1, 2, nil, 3]).to_a).to eq [[1, 2], [2, 4], [nil, nil], [3, 6]]
    expect(many.call([nil, 1])).to eq(nil => nil, 1 => 2)
    expect(asked).to eq [[3, 1], [2, nil]]
    expect(many.call((4..9).to_a).values).to eq [8, 10, 12, 14, 16, 18]
    expect { kept.many([77]) { {} } }.to raise_error(KeyError)
  end

  it "keeps nothing as well as something" do
    kept = described_class.new(2)
    expect([kept.fetch(:a) { nil }, kept.fetch(:a) { raise "asked again" }]).to eq [nil, nil]
  end
end
