# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# The rulebook's pages, in an orchard of inches and in one of millimetres.
RSpec.describe "The rulebook's pages" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  # What stands beside a figure's name on a page.
  def row(here, page, name)
    get "/o/#{here.slug}/rulebook/#{page}"
    Nokogiri::HTML5(last_response.body).css("main tr").find { |each| each.at_css("th")&.text&.strip == name }
      .css("td").map { |cell| cell.text.gsub(/\s+/, " ").strip }
  end

  it "says figures in millimetres, and in inches beside them where the orchard is measured in those" do
    told = %w[metric imperial].map do |units|
      here = orchard(units: units)
      enter person("Orla of #{here.slug}", steward: here)
      row(here, "methods", "stock works").tap { clear_cookies }
    end
    expect(told)
      .to eq [["25 to 150 mm",
               "Below 25 mm the bark will not open without tearing; above 150 mm the stub seldom closes."],
              ["25 to 150 mm (1 in to 5 7/8 in)",
               "Below 1 in the bark will not open without tearing; above 5 7/8 in the stub seldom closes."]]
  end

  it "names an entry by its kind, its method or its place in the book" do
    here = orchard
    enter person("Orla", steward: here)
    names = %w[species.apple.slip_dd methods.whip-and-tongue.take_factor].map do |path|
      get "/o/#{here.slug}/rulebook/entry/#{path}"
      Nokogiri::HTML5(last_response.body).at_css("main").text.gsub(/\s+/, " ")
    end
    expect(names).to match [include("Species › Apple › warmth to slip"),
                            include("Methods › Whip-and-tongue graft › take factor")]
  end

  it "offers no other value for what holds in every orchard" do
    here = orchard
    enter person("Orla", steward: here)
    forms = %w[plausible.girth reckoning.assumed.rise].map do |path|
      get "/o/#{here.slug}/rulebook/entry/#{path}"
      Nokogiri::HTML5(last_response.body).css("form.narrow").size
    end
    expect(forms).to eq [0, 1]
    expect(send_to("/o/#{here.slug}/rulebook/entry/plausible.girth", value: "2, 9", why: "so")).to eq 422
    # What is assumed of a limb that was not measured is the orchard's own.
    bare = limb(tree(here), "A", rise_deg: nil)
    here.update(overrides: Sequel.pg_jsonb("reckoning.assumed.rise" => { "value" => 30, "why" => "they hang" }))
    expect(Vestry::Records::Limb[bare.id].rise_deg).to eq 30
  end

  it "takes a list that falls from level to level as its page shows it" do
    here = orchard
    enter person("Orla", steward: here)
    path = "/o/#{here.slug}/rulebook/entry/reckoning.practice_right_way.lean"
    get path
    shown = Nokogiri::HTML5(last_response.body).at_css("input[name=value]")["value"]
    expect(shown).to eq "34, 28, 22, 17, 13"
    expect(send_to(path, value: shown, why: "as it is taught here")).to eq 302
    expect(here.refresh.overrides["reckoning.practice_right_way.lean"]["value"]).to eq [34, 28, 22, 17, 13]
  end
end
