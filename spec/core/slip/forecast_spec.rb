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

  # The same spring four times over.
  def springs(mean, years: [2022, 2023, 2024, 2025]) = years.map { |year| spell("#{year}-02-01", 240, mean) }
  def dates(answer) = answer.values_at(:p10, :p50, :p90)
  def after(*days) = days.map { |count| count && Date.new(2026, 2, 10) + count }

  it "runs each past year forward from the day after the last, at three thresholds, by hand" do
    # 20 gathered. Without observations sd = 25 sqrt(1/2 + 1/4) = 21.65, so that 93.5, 120 and 146.5 are looked for:
    # at 4 a day 19, 25 and 32 days; at 10 a day 8, 10 and 13.
    answer = slip(history: springs(10))
    expect(answer[:accumulated_dd]).to be_within(1e-9).of(20)
    expect(dates(answer)).to eq after(19, 25, 32)
    mixed = slip(history: springs(10, years: [2022, 2023]) + springs(16, years: [2024, 2025]))
    # In order 8 8 10 10 13 13 19 19 25 25 32 32: the 1st, the 7th and the 12th.
    expect(dates(mixed)).to eq after(8, 19, 32)
  end

  it "draws in as more was seen, for trees differ less than it is known" do
    spread = ->(observed) { slip(history: springs(7), observed_dd: observed).then { |told| told[:p90] - told[:p10] } }
    expect([[], [120] * 4, [120] * 40].map(&spread)).to eq [53, 39, 33]
  end

  it "claims nothing from three springs" do
    expect(dates(slip(history: springs(10).first(3)))).to eq [nil, nil, nil]
  end

  it "counts a spring that never gets there as later than all" do
    cold = springs(5, years: [2018, 2019])
    # Twelve that get there of eighteen: the 1st, the 10th, and an 18th that is none.
    expect(dates(slip(history: springs(10) + cold))).to eq after(19, 32, nil)
    expect(dates(slip(history: springs(5)))).to eq [nil, nil, nil]
  end

  it "takes the forecast's day before the past year's, and passes over missing days" do
    expect(dates(slip(history: springs(10), forecast: spell("2026-02-11", 10, 14)))).to eq after(10, 15, 22)
    gap = springs(10).map { |days| days.reject { |day| day[:date][5..].between?("02-12", "02-14") } }
    expect(dates(slip(history: gap))).to eq after(22, 28, 35)
  end

  it "learns from what was seen here, and from the tree's own habit" do
    expect(slip(observed_dd: [150, 150])[:threshold_dd]).to eq 135.0
    expect(slip(observed_dd: [150, 150], offset_dd: 10)[:threshold_dd]).to eq 145.0
    expect(slip(offset_dd: -110)[:reached_on]).to eq Date.new(2026, 2, 5)
  end

  it "passes over 29 February where the past year has none, and takes it where it has" do
    days = spell("2028-02-01", 27, 6)
    common = slip(days: days, history: springs(26, years: [2023] * 4))[:p50]
    leap = slip(days: days, history: springs(26, years: [2024] * 4))[:p50]
    expect([common, leap]).to eq [Date.new(2028, 3, 5), Date.new(2028, 3, 4)]
  end

  it "runs over New Year in the south" do
    answer = slip(days: spell("2026-08-01", 140, 6), history: [spell("2025-08-01", 300, 7)] * 4)
    expect(answer[:p50]).to eq Date.new(2026, 12, 18) + 120
  end

  it "refuses to say anything from no day at all" do
    expect(refusal("slip", species: "apple", days: []).field).to eq "days"
    expect(refusal("slip", species: "oak", days: []).field).to eq "species"
  end
end
