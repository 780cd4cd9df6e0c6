# frozen_string_literal: true

RSpec.describe Vestry::Core::Survey::Place do
  def latitude(text) = described_class.degrees(text, most: 90)
  def longitude(text) = described_class.degrees(text, most: 180)

  it "reads degrees as people write them" do
    expect(["50.6", "-50,6", "52 06 N", "33° 30' S"].map { |text| latitude(text) }).to eq [50.6, -50.6, 52.1, -33.5]
    expect(["2°54'36\" W", "2 54.6 e", "180", "-180"].map { |text| longitude(text)&.round(9) })
      .to eq [-2.91, 2.91, 180.0, -180.0]
  end

  it "reads no side of the other axis or beside a sign, and nothing beyond the poles" do
    expect(["50 W", "-50 N", "-50 S", "90.1", "91", "50 60 N", "50 10 60 N", "north", ""].map { |text| latitude(text) })
      .to all(be_nil)
    expect(["2.9 N", "-2.9 W", "+2.9 E", "180.5"].map { |text| longitude(text) }).to all(be_nil)
  end

  it "reads a height above the sea in metres or feet" do
    expect(["120", "120 m", "1 800 m", "-3,5 m", "5,900 ft", "400 feet", "100'", "0"]
      .map { |text| described_class.height(text)&.round(2) })
      .to eq [120.0, 120.0, 1800.0, -3.5, 1798.32, 121.92, 30.48, 0.0]
    expect(["high", "", "12 km", "m", "1.2.3 m", "- m", nil].map { |text| described_class.height(text) }).to all(be_nil)
  end
end
