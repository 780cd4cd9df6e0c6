# frozen_string_literal: true

RSpec.describe Vestry::Core::Plausible do
  it "knows a length within its range, its ends with it" do
    expect([20, 3000, 19, 3001].map { |girth| described_class.likely?("girth", girth) })
      .to eq [true, true, false, false]
  end

  it "doubts a branch that leaves within millimetres of its fork, where metres were meant, but not at the fork" do
    expect([0, 1.2, 9.9, 10, 1200].map { |fork| described_class.likely?("fork", fork) })
      .to eq [true, false, false, true, true]
    expect(described_class.slipped?("bark", 1.2)).to be false
  end
end
