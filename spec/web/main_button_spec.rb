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
                      "tally" => "Count row A" },
    "2026-01-20" => { "tally" => "Count row A" },
    "2026-06-20" => { "slip" => "To the plan" },
    "2026-09-20" => { "graft" => "To the plan" } }.each do |day, wanted|
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

  it "offers nobody what they may not do" do
    on("2025-11-20")
    enter person("Vera Viewer", viewer: here)
    expect(%w[survey plan].flat_map { |station| buttons(station) }).to eq []
    expect(buttons("wood")).to eq ["Order from elsewhere"]
  end
end
