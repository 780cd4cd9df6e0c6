# frozen_string_literal: true

RSpec.describe "take", :core do
  def take(takes, trials, **more) = reckon("take", takes: takes, trials: trials, **more)

  it "reckons the worked example" do
    answer = take(17, 22)
    expect(answer.transform_values { |each| each.round(5) }).to eq(rate: 0.77273, low: 0.5656, high: 0.89877,
        expected: 0.75333)
  end

  it "says nothing from nothing" do
    expect(take(0, 0)).to eq(rate: nil, low: 0.0, high: 1.0, expected: 0.7)
  end

  it "stays between nought and one, and narrows as more is counted" do
    [[0, 5], [5, 5], [0, 1], [1, 1]].each do |takes, trials|
      expect(take(takes, trials).values_at(:low, :high)).to all(be_between(0, 1))
    end
    widths = [10, 100, 1000].map { |n| take(n * 7 / 10, n).then { |each| each[:high] - each[:low] } }
    expect(widths).to eq widths.sort.reverse
    expect(take(0, 20)[:low]).to be_within(1e-12).of(0)
  end

  it "refuses more takes than trials" do
    expect(refusal("take", takes: 3, trials: 2).field).to eq "takes"
    expect(refusal("take", takes: -1, trials: 2).field).to eq "takes"
    expect(refusal("take", takes: 1, trials: 2, prior_mean: 1.2).field).to eq "prior_mean"
  end
end
