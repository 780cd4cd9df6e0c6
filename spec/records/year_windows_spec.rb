# frozen_string_literal: true

RSpec.describe Vestry::Records::YearWindows do
  it "has what was grafted looked after from the day after grafting ends until it is counted" do
    here = demo
    spans = described_class.of(here, World::TODAY).to_h { |each| [each[:name], each.values_at(:from, :to)] }
    grafting, aftercare, tally = spans.values_at("Grafting", "Aftercare", "Tally")
    expect(aftercare).to eq [grafting.last + 1, tally.first - 1]
    expect([grafting.first < grafting.last, aftercare.first < aftercare.last]).to eq [true, true]
  end


  it "counts no further than the working year" do
    here = demo
    tally = described_class.of(here, World::TODAY).find { |each| each[:name] == "Tally" }
    expect(tally.values_at(:from, :to)).to eq [Date.new(2026, 9, 15), Date.new(2026, 10, 31)]
  end
end
