# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# A nurse limb that has done its work is said where nothing presses more, and nowhere is it said that nothing is to do.
RSpec.describe "A nurse limb that can come off" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { Vestry::Records::Archive.read(File.join(Vestry::ROOT, "demo/tern-flat")) }

  def head(page)
    get "/o/#{here.slug}/#{page}"
    Nokogiri::HTML(last_response.body).at_css("h1").text
  end

  it "is Today's and Tend's sentence while nothing is due, and leaves them when it is off" do
    day = Date.new(2028, 2, 29)
    allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
    enter person("Orla Finch", steward: here)
    limb = here.trees_dataset.first(row: "H", number: 1).limbs_dataset.first(tag: "A")
    page = "plan/trees/#{limb.tree_id}?limb=#{limb.id}"
    expect(head(page)).to eq "H1 A was kept as a nurse and can come off now: the grafts carry the tree."
    expect([head("tend/nurses"), head("tend"), head("today")])
      .to eq ["H1 A can come off now.", *["Nothing else is due today: nurse limb H1 A can come off."] * 2]
    Vestry::Deeds::TakeOff.call(limb, on: day, today: day, by: "Orla Finch")
    expect(head("today")).not_to include "come off"
    expect(head("tend")).to match(/\ANothing is due today; next is H\d/)
  end

  it "is shortened where the list advises that, and is not asked for again" do
    hill = orchard
    stock = tree(hill)
    nurse = limb(stock, "N", bearing_deg: 200, girth_mm: 150, length_mm: 1800)
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    made = graft(limb(stock, "A"), grafted_on: World::TODAY - 60)
    Vestry::Records::Visit.create(orchard_id: hill.id, graft_id: made.id, seen_on: World::TODAY - 5, verdict: "took",
                                  seen_by: "Orla")
    enter person("Orla Finch", grafter: hill)
    get "/o/#{hill.slug}/tend/nurses"
    form = Nokogiri::HTML(last_response.body).at_css("form[action$='/limbs/#{nurse.id}/shortened']")
    sent = form.css("input").to_h { |input| [input["name"], input["value"]] }
    post form["action"], sent
    follow_redirect!
    said = Nokogiri::HTML(last_response.body)
    expect(said.at_css(".notice").text).to include "A1 N is shortened to about 1.21 m"
    expect(said.at_css("tbody tr td:nth-of-type(3)").text).to include("Keep it", "It was shortened already.")
    expect(said.css("form[action$='/shortened']")).to be_empty
  end
end
