# frozen_string_literal: true

require "puma"
require "puma/server"
require "rack"

RSpec.describe "A weather service that an orchard names" do
  let(:here) { orchard(weather_place: "upper field", weather_url: "#{address}/days?at={place}&from={from}&to={to}") }
  let(:today) { Date.new(2026, 5, 18) }
  let(:asked) { [] }
  let(:gate) { nil }
  let(:answer) { { status: 200, text: "" } }
  let!(:server) do
    app = lambda do |env|
      asked << Rack::Request.new(env).params
      gate&.then { |entered, go| entered << true and go.pop }
      [answer[:status], { "content-type" => "text/plain" }, answer[:body] || [answer[:text]]]
    end
    Puma::Server.new(app, nil, { log_writer: Puma::LogWriter.null, min_threads: 1, max_threads: 2 })
      .tap { |each| @port = each.add_tcp_listener("127.0.0.1", 0).addr[1]; each.run }
  end

  before do
    server
    allow(Vestry::Settings).to receive(:near_services).and_return(["127.0.0.1"])
    allow(Kernel).to receive(:sleep)
  end
  after { server.stop(true) }

  def address = "http://127.0.0.1:#{@port}"
  def ask = Vestry::Deeds::AskWeather.call(here, today: today)
  def trouble = Vestry::Records::Orchard[here.id].weather_trouble
  def days
    Vestry::DB[:weather_days].where(orchard_id: here.id).order(:day).select_map(%i[day min_c max_c rain_mm])
      .map { |day, *figures| [day.iso8601, *figures.map { |each| each&.round(2) }] }
  end

  it "is asked for a place and a span, and speaks as ours does" do
    answer[:text] = JSON.generate([{ day: "2026-05-17", min_c: 3, max_c: 12, rain_mm: 1.5, gust_ms: 4 },
                                   { day: "2026-06-17", min_c: 3, max_c: 12 }])
    expect(ask).to be true
    expect(days).to eq [["2026-05-17", 3.0, 12.0, 1.5]]
    expect(asked.first).to eq("at" => "upper field", "from" => (today - 400).iso8601, "to" => "2026-05-17")
  end

  it "speaks in a table of days, in other units" do
    answer[:text] = "Date;Max temp (°F);Min temp (°F);Rain (in)\n2026-05-16;50;41;0,1\n2026-05-17;59;50;\n"
    expect(ask).to be true
    expect(days).to eq [["2026-05-16", 5.0, 10.0, 2.54], ["2026-05-17", 10.0, 15.0, nil]]
  end

  it "speaks in hours, read as a file like it was matched" do
    hours = (0..23).map { |hour| "17/05/2026 #{hour}:00\t#{hour},5" }
    answer[:text] = "\uFEFFLogger of the upper field\nZeit\tTemperatur\n#{hours.join("\n")}\n".encode("UTF-16LE").b
    expect(ask).to be false
    expect(trouble).to include "cannot be read"
    import = Vestry::Deeds::ImportFile.preview(here, "station", "like.txt", answer[:text], by: "Orla", today: today)
    layout = { "columns" => [{ "field" => "day" }, { "field" => "temperature_c", "unit" => "c" }], "order" => "dmy" }
    expect(Vestry::Deeds::MatchTable.call(import, layout, today: today).good).to eq 1
    expect([ask, trouble]).to eq [true, nil]
    expect(days).to eq [["2026-05-17", 0.5, 23.5, nil]]
  end

  it "says of each mood what it is, and keeps nothing" do
    said = lambda do |**facts|
      answer.replace({ status: 200, text: "" }.merge(facts))
      ask
      trouble
    end
    expect(said[status: 503]).to eq "The weather service has trouble of its own just now (it says 503)."
    expect(said[text: "<html>sign in first</html>"]).to include "cannot be read: It has no columns"
    expect(said[text: "{\"days\": 3"]).to eq "What the weather service says cannot be read."
    expect(said[text: "day,min_c,max_c\n2026-05-17,40,3\n"]).to include "line 2: the least temperature",
                                                                                "above the greatest"
    expect(said[text: "day,min_c,max_c\n2026-05-17,NaN,3\n"]).to include "line 2, column"
    expect(said[text: "x" * (3 * 1024 * 1024)]).to eq "The weather service answered too much at once."
    expect(said[status: 302]).to include "it says 302"
    expect(days).to eq []
  end

  it "is given up where it answers a little at a time, and where nobody listens" do
    stub_const("Vestry::Outside::HttpAnswer::WHOLE", -1)
    answer[:text] = "day,min_c,max_c\n"
    ask
    expect(trouble).to eq "The weather service answers too slowly."
    here.update(weather_url: "http://127.0.0.1:9/")
    ask
    expect(trouble).to eq "The weather service does not answer."
  end

  it "is not asked within the installation's own network, unless that is allowed" do
    allow(Vestry::Settings).to receive(:near_services).and_return([])
    ["#{address}/", "http://[::1]:#{@port}/", "http://169.254.10.1/", "http://[::ffff:127.0.0.1]:#{@port}/",
     "http://0.0.0.0:#{@port}/", "http://10.1.2.3/"].each do |near|
      here.update(weather_url: near)
      ask
      expect([near, trouble]).to eq [near, "The weather service lies within this network, where none is asked."]
    end
    expect(asked).to eq []
  end

  describe "asked by two at once" do
    let(:gate) { [Queue.new, Queue.new] }

    it "is asked once" do
      answer[:text] = "day,min_c,max_c\n2026-05-17,3,12\n"
      first = Thread.new { ask }
      gate.first.pop
      expect(ask).to be true
      expect(days).to eq []
      gate.last << true
      expect([first.value, asked.size, days.size]).to eq [true, 1, 1]
    end
  end
end
