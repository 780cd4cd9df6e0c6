# frozen_string_literal: true

RSpec.describe Vestry::Core::Season do
  let(:north) { described_class.new(southern: false) }
  let(:south) { described_class.new(southern: true) }

  def day(text) = Date.iso8601(text)

  it "begins the working year where the work does" do
    expect([north.year_start(day("2026-10-31")), north.year_start(day("2026-11-01"))])
      .to eq [day("2025-11-01"), day("2026-11-01")]
    expect([south.year_start(day("2026-04-30")), south.year_start(day("2026-05-01"))])
      .to eq [day("2025-05-01"), day("2026-05-01")]
  end

  it "names a season by the year its spring falls in, from dormancy to the autumn's tally" do
    expect(%w[2025-11-15 2026-04-21 2026-10-11].map { |text| north.name_of(day(text)) }.uniq).to eq [2026]
    expect(%w[2025-05-15 2025-09-14 2026-04-04].map { |text| south.name_of(day(text)) }.uniq).to eq [2025]
  end

  it "counts a summer's growth until buds swell, also after its working year is over" do
    counted = ->(season, *days) { days.map { |text| season.name_counted(day(text), "03-15") } }
    expect(counted[north, "2026-10-11", "2026-11-10", "2027-02-01", "2027-03-14", "2027-03-15", "2027-09-15"])
      .to eq [2026, 2026, 2026, 2026, 2027, 2027]
    expect(counted[south, "2026-04-04", "2026-05-10", "2026-09-14", "2026-09-15"]).to eq [2025, 2025, 2025, 2026]
  end

  it "turns a calendar rule round by half a year in the south, never into a day that is not there" do
    expect([north.next_day("09-15", day("2026-05-01")), south.next_day("09-15", day("2026-05-01"))])
      .to eq [day("2026-09-15"), day("2027-03-15")]
    expect(south.next_day("08-31", day("2026-01-01"))).to eq day("2026-02-28")
    expect(north.next_day("09-15", day("2026-09-15"))).to eq day("2026-09-15")
  end

  it "counts the bark's year from the biofix, over a leap day too" do
    expect([north.bark_day(1, day("2026-05-18")), north.bark_day(30, day("2024-05-18"))])
      .to eq [day("2026-02-01"), day("2024-03-01")]
    expect(south.bark_day(1, day("2026-05-18"))).to eq day("2026-08-01")
  end
end
