# frozen_string_literal: true

RSpec.describe Vestry::Core::Slip::Gaps do
  let(:book) { Vestry::Core::Rulebook.shipped }
  let(:first) { Date.new(2026, 2, 1) }

  def day(number, min_c, max_c) = { date: first + number, min_c: min_c, max_c: max_c, rain_mm: 2.0, gust_ms: 4.0 }
  def filled(*days) = described_class.filled(days, book)
  def broken(*days, from: first) = described_class.broken?(days, from, book)

  it "fills what is missing between two days in a straight line, and knows nothing of its rain or wind" do
    told = filled(day(0, 2.0, 8.0), day(3, 5.0, 14.0), day(4, 1.0, 3.0))
    expect(told.map { |each| each.values_at(:min_c, :max_c) })
      .to eq [[2.0, 8.0], [3.0, 10.0], [4.0, 12.0], [5.0, 14.0], [1.0, 3.0]]
    expect(told.map { |each| each[:date] }).to eq((first..first + 4).to_a)
    expect(told.map { |each| each[:rain_mm] }).to eq [2.0, nil, nil, 2.0, 2.0]
    expect([filled, filled(day(7, 1.0, 2.0)).size]).to eq [[], 1]
  end

  it "fills no more in a row than the rulebook says, and knows that so many are missing" do
    most = book.value("reckoning.slip.gap_days")
    expect([most, most + 1].map { |missing| filled(day(0, 2.0, 8.0), day(missing + 1, 3.0, 9.0)).size })
      .to eq [most + 2, 2]
    expect([most, most + 1].map { |missing| broken(day(0, 2.0, 8.0), day(missing + 1, 3.0, 9.0)) }).to eq [false, true]
    # From the day that is asked about, too.
    expect([most, most + 1].map { |missing| broken(day(missing, 2.0, 8.0)) }).to eq [false, true]
    expect(broken).to be false
  end
end
