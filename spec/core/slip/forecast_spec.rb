# frozen_string_literal: true

RSpec.describe "slip", :core do
  def spell(from, count, mean)
    Array.new(count) { |i| { date: (Date.iso8601(from) + i).iso8601, min_c: mean, max_c: mean } }
  end
  def slip(**more) = reckon("slip", { species: "apple", days: spell("2026-02-01", 10, 8) }.merge(more))

  it "says the day it was reached, and then no dates to come" do
    answer = slip(days: spell("2026-02-01", 30, 18), history: [spell("2025-02-01", 200, 10)])
    expect(answer).to include(threshold_dd: 120.0, reached_on: Date.new(2026, 2, 10), p10: nil, p50: nil, p90: nil)
    expect(answer[:accumulated_dd]).to be_within(1e-9).of(360)
  end

  it "runs each past year forward from the day after the last, by hand" do
    # 20 gathered; 100 to go at 4 a day is 25 days, at 10 a day 10.
    answer = slip(history: [spell("2025-02-01", 200, 10), spell("2024-02-01", 200, 16)])
    expect(answer[:accumulated_dd]).to be_within(1e-9).of(20)
    expect([answer[:p10], answer[:p50], answer[:p90]]).to eq [Date.new(2026, 2, 20), Date.new(2026, 2, 20),
        Date.new(2026, 3, 7)]
  end

  it "takes the forecast's day before the past year's" do
    without = slip(history: [spell("2025-02-01", 200, 10)])[:p50]
    with = slip(history: [spell("2025-02-01", 200, 10)], forecast: spell("2026-02-11", 10, 14))[:p50]
    expect([without, with]).to eq [Date.new(2026, 3, 7), Date.new(2026, 2, 25)]
  end

  it "learns from what was seen here, and from the tree's own habit" do
    expect(slip(observed_dd: [150, 150])[:threshold_dd]).to eq 135.0
    expect(slip(observed_dd: [150, 150], offset_dd: 10)[:threshold_dd]).to eq 145.0
    expect(slip(offset_dd: -110)[:reached_on]).to eq Date.new(2026, 2, 5)
  end

  it "leaves out a year that does not get there, and passes over missing days" do
    cold = spell("2025-02-01", 300, 5)
    expect(slip(history: [cold])).to include(p10: nil, p50: nil, p90: nil, reached_on: nil)
    expect(slip(history: [cold, spell("2024-02-01", 200, 16)])[:p90]).to eq Date.new(2026, 2, 20)
    gap = spell("2024-02-01", 200, 16).reject { |day| day[:date].between?("2024-02-12", "2024-02-14") }
    expect(slip(history: [gap])[:p50]).to eq Date.new(2026, 2, 23)
  end

  it "passes over 29 February where the past year has none, and takes it where it has" do
    days = spell("2028-02-01", 27, 6)
    common = slip(days: days, history: [spell("2027-02-01", 200, 26)])[:p50]
    leap = slip(days: days, history: [spell("2024-02-01", 200, 26)])[:p50]
    expect([common, leap]).to eq [Date.new(2028, 3, 5), Date.new(2028, 3, 4)]
  end

  it "runs over New Year in the south" do
    answer = slip(days: spell("2026-08-01", 140, 6), history: [spell("2025-08-01", 300, 7)])
    expect(answer[:p50]).to eq Date.new(2026, 12, 18) + 120
  end

  it "refuses to say anything from no day at all" do
    expect(refusal("slip", species: "apple", days: []).field).to eq "days"
    expect(refusal("slip", species: "oak", days: []).field).to eq "species"
  end
end
