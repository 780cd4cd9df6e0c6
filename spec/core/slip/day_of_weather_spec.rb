# frozen_string_literal: true

RSpec.describe Vestry::Core::Slip::DayOfWeather do
  def fault(**day) = described_class.fault({ min_c: 4.0, max_c: 15.0, rain_mm: 2.0, gust_ms: 9.0 }.merge(day))

  it "believes what a station measures, and what it left out" do
    expect([fault, fault(rain_mm: nil, gust_ms: nil), fault(min_c: nil, max_c: nil)]).to eq [nil, nil, nil]
    expect([fault(min_c: -40.0, max_c: -30.0), fault(max_c: 49.0), fault(rain_mm: 900.0)]).to eq [nil, nil, nil]
  end

  it "names the figure that is in another unit or broken" do
    expect(fault(max_c: 75.0)).to eq :max_c
    expect(fault(min_c: -91.0)).to eq :min_c
    expect([fault(rain_mm: -0.1), fault(rain_mm: 2001.0)]).to eq %i[rain_mm rain_mm]
    expect([fault(gust_ms: -1.0), fault(gust_ms: 121.0)]).to eq %i[gust_ms gust_ms]
  end

  it "says that the least is above the greatest, and not that both are the same" do
    expect([fault(min_c: 16.0), fault(min_c: 15.0)]).to eq [:order, nil]
  end
end
