# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# Where only evergreens stand, nobody is told to cut wood asleep, in winter.
RSpec.describe "The wood of evergreens" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  def said(here, page)
    get "/o/#{here.slug}/#{page}"
    Nokogiri::HTML(last_response.body).tap { |html| html.css("script, style").remove }
      .at_css("main").text.gsub(/[[:space:]]+/, " ")
  end

  def planned(here, species)
    stem = limb(tree(here, species: species), girth_mm: 170)
    Vestry::Deeds::DecideLimb.call(stem, { role: "work", technique: "rind", cut: 600.0, season: 2026,
                                           variety: variety(here, "Of #{species}", species: species).id,
                                           practice: "single", against_reason: "it stands so" },
                                   by: "Orla", season: 2026)
  end

  it "is cut on the day, and no window of winter is told" do
    here = orchard
    planned(here, "citrus")
    enter person("Orla Finch", steward: here)
    expect(said(here, "wood")).to include("The leafy wood of evergreens is cut on the day of grafting.")
    expect(said(here, "wood/list")).to include("evergreen, never asleep", "Sticks are cut")
    expect(%w[wood wood/list].map { |page| said(here, page) }.join).not_to match(/fully asleep|while the trees sleep/)
  end

  it "leaves the window of winter to what sleeps beside it" do
    here = orchard
    planned(here, "citrus")
    planned(here, "apple")
    enter person("Orla Finch", steward: here)
    expect(said(here, "wood")).to include("while the trees sleep")
    expect(said(here, "wood/list")).to include("fully asleep", "evergreen, never asleep")
  end
end
