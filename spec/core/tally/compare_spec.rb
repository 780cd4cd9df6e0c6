# frozen_string_literal: true

# Worked by hand from the papers' formulas.
RSpec.describe Vestry::Core::Tally::Compare do
  def compare(*strata) = described_class.call(strata: strata.map { |all| %i[a n1 c n0].zip(all).to_h })

  it "compares one kind with the others: the difference, its width, and the statistic" do
    told = compare([10, 20, 5, 20])
    # w = 10, P = -1.25, Q = 2.5; variance (0.25 P + Q) / w squared = 0.021875.
    expect(told[:difference]).to be_within(1e-12).of(0.25)
    expect(told[:sd]).to be_within(1e-9).of(Math.sqrt(0.021875))
    expect(told.values_at(:low, :high)).to match [be_within(1e-6).of(-0.039883), be_within(1e-6).of(0.539883)]
    # 2.5 squared over 400 x 15 x 25 / (1600 x 39).
    expect(told[:chi2]).to be_within(1e-9).of(2.6)
    # One of each: (1 - 0.5) squared over 1 x 1 x 1 x 1 / (4 x 1).
    expect(compare([1, 1, 0, 1])[:chi2]).to be_within(1e-9).of(1.0)
  end

  it "weighs like with like, and leaves out where one side is missing" do
    told = compare([10, 20, 5, 20], [3, 4, 5, 12], [7, 9, 0, 0], [0, 0, 2, 3])
    # Weights 10 and 3: (10 x 0.25 + 3 x (0.75 - 5/12)) / 13.
    expect(told[:difference]).to be_within(1e-12).of(3.5 / 13)
    expect(told[:strata_used]).to eq 2
  end

  it "says nothing where nothing can be compared" do
    expect(compare([3, 4, 0, 0])).to eq(difference: nil, sd: nil, low: nil, high: nil, chi2: nil, strata_used: 0)
  end
end
