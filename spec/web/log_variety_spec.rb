# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# A graft of another kind than its stock is logged as it was planned.
RSpec.describe "The variety of a graft that is logged" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:stock) { limb(tree(here, species: "serviceberry")) }
  let(:planned) { variety(here, "Perry Lantern", species: "pear") }

  def choices
    get "/o/#{here.slug}/graft/limbs/#{stock.id}"
    Nokogiri::HTML(last_response.body).css("select[name=variety] option")
      .to_h { |each| [each.text, !each["selected"].nil?] }
  end

  before do
    { "Orchard Plum" => "plum", "Bank Service" => "serviceberry" }
      .each { |name, kind| variety(here, name, species: kind) }
    Vestry::Deeds::DecideLimb.call(stock, { role: "work", technique: "rind", cut: 600.0, practice: "single",
                                            variety: planned.id }, by: "Orla", season: 2026)
    enter person("Orla Finch", steward: here)
  end

  it "is the planned one, beside whatever else that stock bears" do
    expect(choices.keys).to include(a_string_starting_with("Perry Lantern"), "Bank Service")
    expect(choices.keys.grep(/Plum/)).to eq []
    expect(choices.select { |_, chosen| chosen }.keys).to match [/Perry Lantern/]
  end

  it "is asked about where a graft stands on the limb already, and not where that one was lost" do
    asked = -> { choices && last_response.body[/A graft of [^<]+ stands on it already/]&.gsub(/\s+/, " ") }
    expect(asked.call).to be_nil
    made = graft(stock, variety_id: planned.id, grafted_on: Date.new(2026, 4, 21))
    expect(asked.call).to eq "A graft of Perry Lantern from 21 April stands on it already"
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 5, 10),
                                  verdict: "failed", buds: "dead")
    expect(asked.call).to be_nil
  end

  it "stays the planned one where the rulebook would refuse it" do
    stock.tree.update(species: "walnut")
    expect(choices.select { |_, chosen| chosen }.keys).to eq ["Perry Lantern (refused)"]
  end
end
