# frozen_string_literal: true

RSpec.describe "callus" do
  def days(from, count, min, max)
    Array.new(count) { |i| { date: (Date.iso8601(from) + i).iso8601, min_c: min, max_c: max } }
  end

  it "works out the example" do
    answer = reckon("callus", species: "apple", days: days("2026-04-10", 30, 6, 17))
    expect(answer[:daily].first).to be_within(1e-6).of(0.602917)
    expect(answer[:knit_on]).to eq Date.new(2026, 4, 26)
  end

  it "stands still in the cold and in killing heat" do
    expect(reckon("callus", species: "walnut", days: days("2026-04-10", 5, 2, 9))[:units]).to eq 0.0
    expect(reckon("callus", species: "apple", days: days("2026-07-10", 5, 33, 40))[:units]).to eq 0.0
  end

  it "knits sooner under a cover in a cool spring" do
    bare, covered = [0, 4].map do |offset|
      reckon("callus", species: "walnut", days: days("2026-05-01", 120, 8, 19), offset_c: offset)[:knit_on]
    end
    expect(covered).to be < bare
  end
end
