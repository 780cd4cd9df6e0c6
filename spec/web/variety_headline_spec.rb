# frozen_string_literal: true

require "rack/test"

# What a variety's own page says of it first.
RSpec.describe "A variety's page" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:amber) { variety(here, "Amber Pippin") }

  before { enter person(steward: here) }

  def said
    get "/o/#{here.slug}/varieties/#{amber.id}"
    Nokogiri::HTML5(last_response.body).at_css("h1.now").text
  end

  it "is no choice for a tree while it is protected and nobody permitted it" do
    stock = tree(here)
    variety(here, "Locked Sweeting", protected: true)
    said = lambda do
      get "/o/#{here.slug}/plan/trees/#{stock.id}/varieties"
      Nokogiri::HTML5(last_response.body).at_css("h1.now").text
    end
    expect(said.call).to start_with("Nothing in the register lives on #{stock.label}")
    amber
    expect(said.call).to start_with("1 variety of the register lives on #{stock.label}")
  end

  def planned(limb, season)
    plan = Vestry::Records::Plan.create(orchard_id: here.id, tree_id: limb.tree_id, purpose: "")
    Vestry::Records::PlanLimb.create(orchard_id: here.id, plan_id: plan.id, limb_id: limb.id, role: "work",
                                     season: season, variety_id: amber.id)
  end

  it "says that it stands nowhere" do
    expect(said).to eq "Amber Pippin stands nowhere here, and no limb is to become it."
  end

  it "counts the trees that carry it, the limbs that live of it, and those to be worked" do
    tree(here, variety_id: amber.id)
    grafts = Array.new(3) { graft(limb(tree(here)), variety_id: amber.id) }
    grafts[1].update(lost_on: Date.new(2026, 5, 10), lost_cause: "failed")
    grafts[2].limb.update(gone_on: Date.new(2026, 5, 10))
    planned(limb(tree(here)), 2027)
    expect(said).to eq "Amber Pippin: 1 tree carries it, 1 limb is grafted with it and 1 limb is to become it."
    # What was grafted as planned is no longer to be.
    planned(grafts[0].limb, 2026)
    expect(said).to end_with "1 limb is to become it."
    graft(limb(tree(here)), variety_id: variety(here, "Other Pippin").id)
    expect(said).to include "1 limb is grafted with it"
  end

  it "goes with what is seen, counted and taken away" do
    grafts = Array.new(3) { graft(limb(tree(here)), variety_id: amber.id) }
    expect(said).to include "3 limbs are grafted with it"
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: grafts[0].id, seen_on: World::TODAY, verdict: "failed")
    expect(said).to include "2 limbs are grafted with it"
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: grafts[1].id, season: 2026, tallied_on: World::TODAY,
                                  alive: false)
    expect(said).to include "1 limb is grafted with it"
    grafts[2].limb.tree.update(hidden_at: Time.now)
    grafts[2].limb.update(hidden_at: Time.now)
    expect(said).to include "stands nowhere here"
  end

  it "says first that it may not be planned" do
    amber.update(protected: true, permission: nil)
    expect(said).to eq "Amber Pippin cannot be planned: protected, and no permission is recorded."
  end
end
