# frozen_string_literal: true

require "puma"
require "puma/server"
require "socket"
require_relative "../../standins/app"

RSpec.describe "Weather" do
  let(:here) { orchard(weather_place: "maunder-hill") }
  let(:today) { Date.new(2026, 5, 18) }

  def refusal
    yield
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors[:file].first
  end

  def days = Vestry::DB[:weather_days].where(orchard_id: here.id).order(:day)
  def bring(text) = Vestry::Deeds::KeepWeather.read_file(here, text, by: "Orla")

  describe "from a station's file" do
    it "reads days in our units or its own, and tells the gaps" do
      expect(bring("day,min_c,max_c,rain_mm,gust_ms\n2026-05-01,3,12,0,4\n2026-05-04,4,13,,\n"))
        .to eq(read: 2, gap_days: 2)
      bring("date;min_f;max_f;rain_in;gust_kmh\n2026-05-02;41;50;0,1;36\n")
      row = days.where(day: Date.new(2026, 5, 2)).first
      expect([row[:min_c], row[:max_c], row[:rain_mm], row[:gust_ms]].map { |each| each.round(6) })
        .to eq [5.0, 10.0, 2.54, 10.0]
    end

    it "says line and column, and keeps nothing of a bad file" do
      expect(refusal { bring("day,min_c,max_c\n2026-05-01,3,12\n2026-02-30,1,2\n") })
        .to include("line 3, column “day”", "2026-02-30")
      expect(refusal { bring("day,min_c,max_c\n2026-05-01,3,warm\n") }).to include("line 2, column “max_c”", "warm")
      expect(refusal { bring("day,min_c,max_c\n2026-05-01,38,61\n") }).to include("not believable")
      expect(refusal { bring("day,min_c,max_c\n2026-05-01,9,3\n") }).to include("above the greatest")
      expect(refusal { bring("day,low,high\n2026-05-01,1,3\n") })
        .to eq "Say in what unit its least temperature is. Say in what unit its greatest temperature is. It has day, " \
               "low, high."
      expect(refusal { bring("day,wet\n2026-05-01,1\n") })
        .to include("Say which column holds least temperature and greatest temperature, or temperature through")
      expect(days.count).to eq 0
    end

    it "takes 29 February, and a day again in place of itself" do
      bring("day,min_c,max_c\n2024-02-29,1,2\n")
      bring("day,min_c,max_c\n2024-02-29,1,5\n")
      expect(days.select_map(%i[day max_c])).to eq [[Date.new(2024, 2, 29), 5.0]]
    end
  end

  describe "from the service" do
    # The stand-in itself, on a port of its own.
    def serve(out)
      server = Puma::Server.new(Standins::App.new(out: ->(_) { out.call }))
      port = server.add_tcp_listener("127.0.0.1", 0).addr[1]
      server.run
      allow(Vestry::Settings).to receive(:standins).and_return("http://127.0.0.1:#{port}")
      yield
    ensure
      server&.stop(true)
    end

    it "asks for what is missing and for ten days ahead, and never puts a forecast over what was measured" do
      serve(-> { false }) do
        expect(Vestry::Deeds::AskWeather.call(here, today: today)).to be true
        expect(days.where(forecast: true).select_map(:day)).to eq (today..today + 10).to_a
        measured = days.where(forecast: false).select_map(:day)
        expect(measured.last).to be_between(today - 2, today - 1)
        bring("day,min_c,max_c\n#{today},1,2\n")
        Vestry::Deeds::AskWeather.call(here, today: today)
        expect(days.where(day: today).get(%i[max_c forecast])).to eq [2.0, false]
        Vestry::Deeds::AskWeather.call(here, today: today + 3)
        expect(days.where(forecast: true).min(:day)).to be >= today + 1
        expect(Vestry::Records::Orchard[here.id]).to have_attributes(weather_trouble: nil, weather_answered_at: Time)
      end
    end

    it "tries again when it is out, and says so when it stays out" do
      tries = 0
      serve(-> { (tries += 1) < 3 }) { expect(Vestry::Deeds::AskWeather.call(here, today: today)).to be true }
      serve(-> { true }) { expect(Vestry::Deeds::AskWeather.call(here, today: today + 1)).to be false }
      expect(Vestry::Records::Orchard[here.id].weather_trouble)
        .to eq "The weather service has trouble of its own just now (it says 503)."
      expect(days.count).to be > 100
    end

    it "says that nobody answers where nobody listens" do
      closed = TCPServer.new("127.0.0.1", 0).then { |server| server.addr[1].tap { server.close } }
      allow(Vestry::Settings).to receive(:standins).and_return("http://127.0.0.1:#{closed}")
      expect(Vestry::Deeds::AskWeather.call(here, today: today)).to be false
      expect(Vestry::Records::Orchard[here.id].weather_trouble).to eq "The weather service does not answer."
    end
  end

  it "makes the same weather for a place and day, whichever day is asked for first" do
    feed = Standins::Weather::Seeded.new("maunder-hill")
    expect(feed.days(today, today + 3).last).to eq feed.day(today + 3)
    expect(Standins::Weather::Seeded.new("tern-flat").day(today)).not_to eq feed.day(today)
    expect((1..10).any? { |i| feed.forecast(today + i, today) != feed.day(today + i) }).to be true
  end


  it "replaces a forecast by what was measured, what was measured by a later measure, and neither by a forecast" do
    keep = lambda do |least, forecast|
      Vestry::Records::SiteWeather.keep(here, [{ day: today, min_c: least, max_c: 12, forecast: forecast }])
      days.get(%i[min_c forecast]).then { |c, told| [c.to_f, told] }
    end
    expect([keep[1, true], keep[2, true], keep[3, false], keep[4, true], keep[5, false]])
      .to eq [[1.0, true], [2.0, true], [3.0, false], [3.0, false], [5.0, false]]
  end
end
