# frozen_string_literal: true

RSpec.describe Vestry::Core::Values do
  it "reads plain numbers, with a point or a comma, and nothing else" do
    expect(["1", " 1,5 ", "-2.5", "−3", ".5", "1e3", "+4."].map { |text| described_class.number(text) })
      .to eq [1.0, 1.5, -2.5, -3.0, 0.5, 1000.0, 4.0]
    expect(["", "NaN", "Infinity", "-inf", "1_000", "0x1A", "1e400", "1e99", "1,000,000", "1 2", "one", nil, "1\n2",
            "\xFF", "١"].map { |text| described_class.number(text) }).to all(be_nil)
    expect(["7", "-3", "7.0", "1e3", "99999999999"].map { |text| described_class.whole(text) })
      .to eq [7, -3, nil, nil, nil]
  end

  it "reads a day as 2026-05-18 and in no other way" do
    expect(described_class.day("2026-05-18")).to eq Date.new(2026, 5, 18)
    expect(["01.05.2026", "03/04/2026", "05/01/26", "May 5", "2026-W20-1", "2026-138", "20260518", "2026-5-1",
            "2026-02-30", "now", "today", "yesterday", "infinity", "epoch", "0001-01-01", "9999-12-31", "",
            nil].map { |text| described_class.day(text) }).to all(be_nil)
  end

  it "knows the last minute of a day, and none after it" do
    expect(described_class.moment("2026-02-14 23:59:59").first).to eq Time.utc(2026, 2, 14, 23, 59, 59)
    expect(["24:00", "23:60", "23:59:60"].map { |clock| described_class.moment("2026-02-14 #{clock}") }).to eq [nil] * 3
  end

  it "reads a moment with or without its zone" do
    expect(described_class.moment("2026-02-14 08:30")).to eq [Time.utc(2026, 2, 14, 8, 30), false]
    expect(described_class.moment("2026-02-14T08:30:15+02:00")).to eq [Time.utc(2026, 2, 14, 6, 30, 15), true]
    expect(described_class.moment("2026-02-14T08:30Z")).to eq [Time.utc(2026, 2, 14, 8, 30), true]
    expect(["now", "2026-02-14", "2026-02-30 08:30", "2026-02-14 25:00", "2026-02-14 08:61", "14.02.2026 08:30",
            "infinity", "08:30"].map { |text| described_class.moment(text) }).to all(be_nil)
  end

  it "reads a light weight in grams or ounces" do
    expect(["455", "455 g", "1,2 kg", "12.5 OZ", "1 lb", "2 lbs."].map { |text| described_class.grams(text) })
      .to eq [455.0, 455.0, 1200.0, 354.4, 453.6, 907.2]
    expect(["", "g", "3 stone", "an oz", nil].map { |text| described_class.grams(text) }).to all(be_nil)
  end

  it "reads a weight in kilograms or pounds" do
    expect(["3.5", "3,5 kg", " 4KG ", "12 lb", "1 lb.", "12 lbs", "0"].map { |text| described_class.kilograms(text) })
      .to eq [3.5, 3.5, 4.0, 5.443, 0.454, 5.443, 0.0]
    expect(["", "kg", "3 stone", "3 g", "a lb", nil].map { |text| described_class.kilograms(text) }).to all(be_nil)
  end
end
