# frozen_string_literal: true

RSpec.describe Vestry::Records::SiteWeather do
  let(:today) { Date.new(2026, 10, 1) }

  def gust(place, day, blown)
    Vestry::DB[:weather_days].insert(orchard_id: place.id, day: Date.iso8601(day), min_c: 4, max_c: 12, gust_ms: blown)
  end

  def usual(place) = described_class.new(place, today).usual_gust

  it "takes the middle of the strongest gusts of past summers, and none of winter's" do
    here = orchard
    expect(usual(here)).to be_nil
    { "2023-05-01" => 12, "2023-09-30" => 14, "2024-06-10" => 20, "2024-07-10" => 21, "2025-08-01" => 17,
      "2025-08-02" => 9 }
      .each { |day, blown| gust(here, day, blown) }
    expect(usual(here)).to eq 17
    { "2023-04-30" => 33, "2024-10-01" => 34, "2025-01-10" => 35, "2025-12-24" => 36 }
      .each { |day, blown| gust(here, day, blown) }
    expect(usual(here)).to eq 17
  end

  it "takes a past spring whose first days are kept, and so many of them" do
    here = orchard
    keep = lambda do |year, days|
      Vestry::DB[:weather_days].multi_insert(Array.new(days) do |n|
        { orchard_id: here.id, day: Date.new(year, 2, 1) + n, min_c: 4, max_c: 12 }
      end)
    end
    keep[2023, 119]
    keep[2024, 120]
    keep[2025, 260]
    expect(described_class.new(here, today).past.years.map { |spring| [spring.first[:date].year, spring.size] })
      .to eq [[2024, 120], [2025, 240]]
  end

  it "has summer from November to March in the south" do
    south = orchard(name: "Tern Flat", slug: "tern-flat", latitude: -43.2)
    { "2024-11-01" => 11, "2025-03-31" => 19, "2025-04-01" => 30, "2025-10-31" => 31 }
      .each { |day, blown| gust(south, day, blown) }
    expect(usual(south)).to eq 19
    { "2024-12-10" => 21, "2025-01-10" => 22, "2025-02-10" => 23 }.each do |day, blown|
      Vestry::DB[:weather_days].where(orchard_id: south.id).delete
      gust(south, day, blown)
      expect(usual(south)).to eq blown
    end
  end
end
