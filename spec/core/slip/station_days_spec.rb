# frozen_string_literal: true

RSpec.describe Vestry::Core::Slip::StationDays do
  let(:book) { Vestry::Core::Rulebook.shipped }
  let(:day) { Date.new(2026, 5, 1) }

  def reading(line, at = day, **facts)
    { line: line, day: at, temperature_c: nil, min_c: nil, max_c: nil, rain_mm: nil, gust_ms: nil, **facts }
  end

  def days(*readings) = described_class.call(readings, rulebook: book)

  it "sums rain to the thousandth, and takes the ends of warmth and the strongest gust" do
    read = days(reading(2, temperature_c: 4.5, rain_mm: 0.1, gust_ms: 3.0),
                reading(3, temperature_c: 11.25, rain_mm: 0.2, gust_ms: 9.5))
    expect(read).to eq [{ line: 2, day: day, min_c: 4.5, max_c: 11.25, rain_mm: 0.3, gust_ms: 9.5, left_out: nil }]
    expect(days(reading(2, temperature_c: 1.0, rain_mm: 0.1234), reading(3, temperature_c: 1.0, rain_mm: 0.0))
      .first[:rain_mm]).to eq 0.123
  end

  it "knows no rain of a day on which one reading has none" do
    expect(days(reading(2, temperature_c: 4.5, rain_mm: 0.1), reading(3, temperature_c: 5.0)).first[:rain_mm]).to be_nil
  end

  it "leaves out a day with too few of the readings that most have" do
    whole = (0..9).map { |line| reading(line, temperature_c: 10.0) }
    part = (10..12).map { |line| reading(line, day + 1, temperature_c: 10.0) }
    more = (20..29).map { |line| reading(line, day + 2, temperature_c: 10.0) }
    expect(days(*whole, *part, *more).map { |each| each[:left_out] }).to eq [nil, [3, 10], nil]
  end
end
