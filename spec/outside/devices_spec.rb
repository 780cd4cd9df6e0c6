# frozen_string_literal: true

require "puma"
require "puma/server"
require "rack/mock_request"
require "socket"
require_relative "../../standins/app"

RSpec.describe "Devices and clocks outside" do
  def serve(app)
    server = Puma::Server.new(app)
    port = server.add_tcp_listener("127.0.0.1", 0).addr[1]
    server.run
    allow(Vestry::Settings).to receive(:standins).and_return("http://127.0.0.1:#{port}")
    yield
  ensure
    server&.stop(true)
  end

  let(:here) { orchard }
  let(:store) { Vestry::Deeds::KeepStore.open(here, "Fridge", thermometer: "scion-fridge", by: "Orla") }

  describe "the stand-in" do
    def ask(path) = Rack::MockRequest.new(Standins::App.new(out: ->(_) { false })).get(path)

    it "answers what it is asked, and says what it cannot" do
      readings = JSON.parse(ask("/thermometer/scion-fridge?from=2026-03-01T00:00:00Z&to=2026-03-02T00:00:00Z").body)
      expect(readings.map { |each| each["at"] }.first(2)).to eq %w[2026-03-01T00:00:00Z 2026-03-01T03:00:00Z]
      expect(JSON.parse(ask("/weather/maunder-hill/forecast?made_on=2026-05-18").body).size).to eq 11
      expect([ask("/nothing").status, ask("/weather/x?from=2026-05-02&to=2026-05-01").status,
              ask("/thermometer/x?from=a&to=b").status]).to eq [404, 400, 400]
    end

    it "has a warm week in its fridge, and some days of weather come late" do
      fridge = Standins::Thermometer::Seeded.new("scion-fridge")
      warm, cold = [[3, 5], [14, 5]].map do |day, span|
        fridge.readings(Time.utc(2026, 3, day), Time.utc(2026, 3, day) + span * 86_400).map { |each| each[:celsius] }
      end
      expect(warm.min).to be > 4.5
      expect(cold.max).to be < 4.5
      counts = (1..10).map do |i|
        JSON.parse(ask("/weather/maunder-hill?from=2026-05-01&to=2026-05-#{format('%02d', i + 9)}").body).size - (i + 9)
      end
      expect(counts.uniq).to match_array [0, -1]
    end
  end

  it "streams a thermometer's readings into its store, each once, and nothing unbelievable" do
    serve(Standins::App.new(out: ->(_) { false })) do
      now = Time.utc(2026, 3, 2, 12)
      2.times { Vestry::Deeds::AskThermometers.call(now: store && now) }
      rows = Vestry::DB[:store_readings].where(store_id: store.id)
      expect(rows.max(:at)).to eq now
      expect(rows.count).to eq 30 * 8 + 1
      # The next reading is looked for a second after the last.
      asked = []
      allow(Vestry::Outside::Thermometer).to receive(:readings) { |_, from, _| asked.push(from) && [] }
      [0, 1, 2].each { |later| Vestry::Deeds::AskThermometers.call(now: now + later) }
      expect(asked).to eq [now + 1]
      RSpec::Mocks.space.proxy_for(Vestry::Outside::Thermometer).reset
    end
    serve(->(_) { [200, {}, [JSON.generate([{ at: "2026-03-03T00:00:00Z", celsius: 300 },
                                            { at: "2026-03-03T03:00:00Z", celsius: 2 }])]] }) do
      Vestry::Deeds::AskThermometers.call(now: Time.utc(2026, 3, 3, 12))
      expect(Vestry::DB[:store_readings].where(store_id: store.id).max(:celsius)).to be < 45
    end
  end

  it "says what is wrong with a device that talks nonsense, too much, or not at all" do
    store
    talk = ->(app) { serve(app) { Vestry::Deeds::AskThermometers.call(now: Time.utc(2026, 3, 2)) } &&
                     store.reload.trouble }
    expect(talk.call(->(_) { [200, {}, ["not json"]] })).to eq "What the thermometer says cannot be read."
    expect(talk.call(->(_) { [200, {}, [JSON.generate([{ when: 1 }])]] }))
      .to eq "What the thermometer says cannot be read."
    expect(talk.call(->(_) { [200, {}, ["x" * (Vestry::Outside::HttpAnswer::MOST_BYTES + 1)]] }))
      .to eq "The thermometer answered too much at once."
    expect(talk.call(->(_) { [500, {}, []] })).to eq "The thermometer has trouble of its own just now (it says 500)."
    expect(Vestry::DB[:store_readings].count).to eq 0
  end

  it "asks nobody where there is nobody to ask" do
    allow(Vestry::Settings).to receive(:standins).and_return(nil)
    expect(Net::HTTP).not_to receive(:start)
    Vestry::Deeds::AskThermometers.call
    Vestry::Deeds::AskWeather.all
  end

  describe Vestry::Outside::Clock do
    it "turns a wall clock's time: twice shown it is the first, never shown it is refused" do
      zone = "Europe/London"
      expect(described_class.moment(zone, Time.utc(2026, 1, 10, 8))).to eq Time.utc(2026, 1, 10, 8)
      expect(described_class.moment(zone, Time.utc(2026, 6, 10, 8))).to eq Time.utc(2026, 6, 10, 7)
      expect(described_class.moment(zone, Time.utc(2026, 10, 25, 1, 30))).to eq Time.utc(2026, 10, 25, 0, 30)
      expect { described_class.moment(zone, Time.utc(2026, 3, 29, 1, 30)) }.to raise_error(TZInfo::PeriodNotFound)
    end

    it "begins a day where the orchard is" do
      expect(described_class.start_of("Pacific/Auckland", Date.new(2026, 1, 2))).to eq Time.utc(2026, 1, 1, 11)
    end
  end
end
