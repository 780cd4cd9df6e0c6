# frozen_string_literal: true

require "rack/test"
require "nokogiri"

# The headline says what matters, and the main button does it.
RSpec.describe "The main button" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  def on(day) = allow(Vestry::Outside::Clock).to receive(:today).and_return(Date.iso8601(day))

  # The words of a station's main buttons.
  def buttons(station)
    get "/o/#{here.slug}/#{station}"
    @links = Nokogiri::HTML5(last_response.body).css("aside.docket a.go")
    @links.map { |each| each.text.gsub(/\s+/, " ").strip }
  end

  { "2026-05-18" => { "survey" => "Decide on D1 B", "plan" => "See what wood is missing", "wood" => "Look at Wood 1",
                      "slip" => "Walk a row", "graft" => "To the bench", "tally" => nil },
    "2025-11-20" => { "survey" => "Plan B1", "plan" => "Plan A1 C again", "wood" => "Order from elsewhere",
                      "tally" => nil },
    "2026-01-20" => { "tally" => nil },
    "2026-06-20" => { "slip" => "To the plan" },
    "2026-09-20" => { "graft" => "To the plan", "tally" => "Count row A" } }.each do |day, wanted|
    it "does what its headline says on #{day}" do
      on(day)
      enter person("Hanna Sorrel", steward: here)
      wanted.each do |station, words|
        expect([station, buttons(station)]).to eq [station, [words].compact]
        @links.each do |link|
          get link["href"].start_with?("?") ? "/o/#{here.slug}/#{station}#{link['href']}" : link["href"]
          expect([station, last_response.status]).to eq [station, 200]
        end
      end
    end
  end

  it "leads from Today where Survey leads" do
    on("2027-02-10")
    enter person("Hanna Sorrel", steward: here)
    expect([buttons("today"), buttons("survey")]).to eq [["Decide on D1 B"]] * 2
  end

  it "moves all that was missed with one press, and says of a second that none is left" do
    on("2026-09-20")
    enter person("Hanna Sorrel", steward: here)
    said = Array.new(2) do
      expect(send_to("/o/#{here.slug}/plan/missed")).to eq 302
      follow_redirect!
      Nokogiri::HTML5(last_response.body).at_css(".notice").text.strip
    end
    expect(said).to eq ["14 limbs are moved to 2027. 7 limbs are moved on behind them.", "None is left to be moved."]
    get "/o/#{here.slug}/graft"
    expect(last_response.body).not_to include("Past their last sensible day")
  end

  it "moves what is left of earlier seasons where the plan's headline asks for that" do
    on("2028-05-18")
    enter person("Hanna Sorrel", steward: here)
    expect(buttons("plan")).to eq []
    expect(Nokogiri::HTML5(last_response.body).css("aside.docket button.go").map { |each| each.text.split.join(" ") })
      .to eq ["Move them to 2028"]
  end

  it "offers nobody what they may not do" do
    on("2025-11-20")
    enter person("Vera Viewer", viewer: here)
    expect(%w[survey plan].flat_map { |station| buttons(station) }).to eq []
    expect(buttons("wood")).to eq ["Order from elsewhere"]
  end
end
