# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::Regrowth do
  it "tells ten seasons where no number is said, and as many as are" do
    told = described_class.call(stub_mm: 60.0, shoot_mm: 900.0)
    expect(told.values.map(&:size)).to eq [10, 10]
    expect(described_class.call(stub_mm: 60.0, shoot_mm: 900.0, seasons: 3)[:shares].size).to eq 3
    # 2.5 + 0.0095 x 900, and 2 x 6 mm more each season.
    expect(told[:diameters_mm].first(2).map { |mm| mm.round(2) }).to eq [11.05, 23.05]
  end
end
