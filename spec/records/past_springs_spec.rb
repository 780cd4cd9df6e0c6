# frozen_string_literal: true

RSpec.describe Vestry::Records::PastSprings do
  let(:here) { orchard }

  # Ten degrees above the base from 1 February on, every day of a spring.
  def spring(year, warm: 15.0)
    (Date.new(year, 2, 1)..Date.new(year, 7, 1)).each do |day|
      Vestry::DB[:weather_days].insert(orchard_id: here.id, day: day, min_c: warm, max_c: warm)
    end
  end

  def weather_day(day)
    Vestry::DB[:weather_days].insert(orchard_id: here.id, day: day, min_c: 10, max_c: 10)
  end

  def weather(today = World::TODAY) = Vestry::Records::SiteWeather.new(here, today)

  it "says when so much warmth had gathered in each spring, and how much had by a day" do
    spring(2024)
    spring(2025, warm: 10.0)
    expect(weather.reached(5, 100.0)).to eq [Date.new(2024, 2, 10), Date.new(2025, 2, 20)]
    expect(weather.usual_dd(5, "02-10")).to be_within(1e-9).of(75.0)
    expect(weather.reached(5, 1e6)).to eq []
  end

  it "goes on over a week that nobody measured, and leaves a spring out of which much is missing" do
    [2023, 2024, 2025].each { |year| spring(year) }
    lost = ->(year, days) { Vestry::DB[:weather_days].where(day: days.map { |n| Date.new(year, 2, 1) + n }).delete }
    lost[2024, 3..8]
    lost[2025, 3..30]
    expect(weather.reached(5, 100.0)).to eq [Date.new(2023, 2, 10), Date.new(2024, 2, 10)]
    # One that begins late says nothing of when bark opened either.
    lost[2023, 0..30]
    expect(weather.reached(5, 100.0)).to eq [Date.new(2024, 2, 10)]
  end

  it "takes a spring without gusts for an ordinary one" do
    spring(2024)
    years = -> { Vestry::Records::PastYears.new(Vestry::Records::Orchard[here.id], World::TODAY).weather_of("apple") }
    expect(years.call.map(&:last)).to eq [1.0]
    spring(2025)
    { 2024 => 12.0, 2025 => 24.0 }.each do |year, gust|
      Vestry::DB[:weather_days].where(day: Date.new(year, 5, 1)).update(gust_ms: gust)
    end
    expect(years.call.map(&:last)).to(satisfy { |calm, windy| calm < windy })
  end

  it "foresees a variety's frost from the warmth of its bloom, where that begins before it ends" do
    spring(2024)
    spring(2025)
    frost = ->(from, to) { weather.frost(variety(here, "Kind #{from} #{to}", bloom_from: from, bloom_to: to)) }
    # Nine degrees a day above an apple's six.
    expect(frost["02-05", "02-10"]).to include(base_c: 6,
                                               from_dd: be_within(1e-9).of(45), to_dd: be_within(1e-9).of(90))
    expect(frost["02-05", "02-05"]).to include(from_dd: be_within(1e-9).of(45), to_dd: be_within(1e-9).of(45))
    expect([frost["02-10", "02-05"], frost[nil, nil]]).to eq [nil, nil]
  end

  it "takes a year as whole from more than 300 days on" do
    days = ->(first, many) { (0...many).each { |n| weather_day(first + n) } }
    days[Date.new(2023, 2, 1), 301]
    days[Date.new(2024, 2, 1), 300]
    expect(weather.whole_years.map(&:size)).to eq [301]
  end

  it "leaves out the present spring, and knows none of another orchard" do
    spring(2026)
    expect(weather.years).to eq []
    expect(weather(Date.new(2027, 5, 1)).years.size).to eq 1
    expect(Vestry::Records::SiteWeather.new(orchard, Date.new(2027, 5, 1)).years).to eq []
  end

  it "follows a southern spring from August over the turn of the year" do
    south = orchard(latitude: -38.0)
    (Date.new(2024, 7, 1)..Date.new(2025, 5, 30)).each do |day|
      Vestry::DB[:weather_days].insert(orchard_id: south.id, day: day, min_c: 15, max_c: 15)
    end
    springs = Vestry::Records::SiteWeather.new(south, Date.new(2026, 9, 1)).years
    expect(springs.map { |days| [days.first[:date], days.last[:date]] })
      .to eq [[Date.new(2024, 8, 1), Date.new(2025, 3, 28)]]
  end
end
