# frozen_string_literal: true

require "rack/test"

RSpec.describe "Beginning an orchard" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:typed) do
    { name: "Long Acre", latitude: "50.7", longitude: "-3.1", time_zone: "Etc/UTC", grazing: "sheep", reach: "2.4 m",
      units: "metric", school: "waxed-rind" }
  end

  def begin_with(**more) = post("/begin", typed.merge(more, authenticity_token: (get("/begin") && token)))

  before { enter(person("Rowan Pike")) }

  it "makes its steward of whoever begins it, at an address of its name" do
    begin_with
    follow_redirect!
    expect(last_response.body).to include("Long Acre is begun, and you are its steward.", "No tree stands here yet")
    begin_with(name: "Löng Acre!")
    expect(Vestry::Records::Orchard.order(:id).select_map(:slug)).to eq %w[long-acre long-acre-2]
    expect(Vestry::Records::Membership.select_map(:role)).to eq %w[steward steward]
  end

  it "begins one, however often its form is sent" do
    get "/begin"
    once = Nokogiri::HTML5(last_response.body).at_css("[name=once]")["value"]
    fields = typed.merge(once: once, authenticity_token: token)
    places = Array.new(2) { post("/begin", fields) && last_response.headers["location"] }
    expect(places.uniq.size).to eq 1
    expect(Vestry::Records::Orchard.select_map(:slug)).to eq ["long-acre"]
  end

  it "names what is wrong at its field, keeps what was typed, and begins nothing" do
    begin_with(name: "", latitude: "95", longitude: "west", reach: "tall")
    expect(last_response.status).to eq 422
    page = Nokogiri::HTML5(last_response.body)
    expect(page.css(".field.wrong label").map { |label| label.text[/\A\w+/] })
      .to match_array %w[Name Latitude Longitude Your]
    expect(page.at_css("[name=longitude]")["value"]).to eq "west"
    expect(Vestry::Records::Orchard.count).to eq 0
  end

  it "is the first thing offered to someone who belongs nowhere" do
    get "/"
    expect(last_response.body).to include("You belong to no orchard yet", 'href="/begin"')
  end

  it "has no dead end before the first tree stands" do
    begin_with
    %w[survey survey/trees/new plan plan/pattern plan/cuts wood wood/list wood/match wood/dip wood/bundles/new
       wood/labels slip slip/crew slip/weather graft graft/sheet graft/sheet.pdf tend tend/nurses tend/calendar
       tally tally/took tally/report.pdf varieties files history people settings rulebook repair find?q=A1]
         .each do |path|
      get "/o/long-acre/#{path}"
      expect([path, last_response.status]).to eq [path, 200]
    end
    stations = %w[today survey plan wood slip graft tend tally].to_h do |path|
      get "/o/long-acre/#{path}"
      page = Nokogiri::HTML5(last_response.body)
      [path, [page.at_css("h1.now").text[/\ANo tree stands here yet/], page.css(".docket a.go").map(&:text),
              page.at_css("main svg.drawing")&.[]("aria-label").to_s[/\AAn example/]]]
    end
    expect(stations.values.map { |said, act, _| [said, act.map { |each| each.gsub(/\s+/, " ") }] }.uniq)
      .to eq [["No tree stands here yet", ["Add trees"]]]
    expect(stations.reject { |_, (_, _, drawn)| drawn }.keys).to eq %w[wood slip]
    get "/o/long-acre/slip"
    expect(last_response.body).to include("At 51° north, 0 m above the sea, bark slips between", "Mulberry")
    Vestry::Records::Orchard.first(slug: "long-acre").update(units: "imperial", altitude_m: 200)
    get "/o/long-acre/slip"
    expect(last_response.body).to include("At 51° north, 656 ft above the sea")
    get "/o/long-acre/slip/walk"
    follow_redirect!
    expect(last_response.body).to include("There is no row to walk yet")
  end
end
