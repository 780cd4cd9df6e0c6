# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# A method at the side, a bud and a plant joined alongside cut no head off: nothing that is planned, drawn, weighed or
# logged of them says that it does.
RSpec.describe "A limb whose head stays on" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:kind) { variety(here) }
  let(:stock) { tree(here) }

  def html = Nokogiri::HTML(last_response.body).tap { |page| page.css("script, style").remove }
  def open(page) = get("/o/#{here.slug}/#{page}")
  def said(css = "main") = html.css(css).xpath(".//text()").map(&:text).join(" ").gsub(/[[:space:]]+/, " ")

  def plan(technique, tag = "A", girth: 230, species: "apple", at: 600.0)
    where = tree(here, species: species)
    Vestry::Deeds::DecideLimb.call(limb(where, "Z", bearing_deg: 200), { role: "nurse" }, by: "Orla", season: 2026)
    limb(where, tag, girth_mm: girth).tap do |stem|
      own = variety(here, "Of #{technique}", species: species)
      Vestry::Deeds::DecideLimb.call(stem, { role: "work", technique: technique, cut: at, variety: own.id, season: 2026,
                                             practice: "single", long: true, against_reason: "it stands so" },
                                     by: "Orla", season: 2026)
    end
  end

  { "side-bark" => 300, "tongued-side" => 110, "approach" => 80, "chip-bud" => 60 }.each do |technique, girth|
    it "by #{technique} is told so on its plan and its card, and is on no list of what to saw" do
      stem = plan(technique, girth: girth)
      enter person("Orla Finch", steward: here)
      open "plan/trees/#{stem.tree_id}?limb=#{stem.id}"
      expect(said("h1")).to match(/set at 600 mm/)
      expect(said(".docket")).to include("Set at 600 mm", "Stays on")
      expect(said(".docket")).not_to match(/Removes|cut long|Undercut|closes in|If nothing takes/)
      expect(stem.planned.long_cut_mm).to be_nil
      open "plan/cuts"
      expect(said).not_to include(stem.label)
      open "graft/stubs"
      expect(said("#stub-#{stem.id}")).to include("set at 600 mm")
      expect(said("#stub-#{stem.id}")).not_to include("saw at")
      expect(Vestry::Records::TreePlan.new(Vestry::Records::Tree[stem.tree_id], World::TODAY).taken(2026)).to eq 0
      child = limb(stem.tree, "A1", parent_id: stem.id, fork_mm: 900, girth_mm: 60)
      made = Vestry::Deeds::LogGraft.call(stem, { grafted_on: World::TODAY, technique: technique, cut_mm: 600.0,
                                                  variety_id: stem.planned.variety_id, stub_mm: 20.0, sticks: 1,
                                                  grafter: "Orla", wrap: "film", seal: "wax", cover: "tape-only",
                                                  donor: "the pot", against_reason: "it stands so" },
                                          by: "Orla", today: World::TODAY)
      expect(child.reload.gone_on).to be_nil
      drawn = Vestry::Drawings::DrawnLimb.of(stem.reload, planning: 2026)
      expect([drawn.cut_mm, drawn.seat_mm, drawn.state]).to eq [nil, 600.0, "grafted"]
      expect(made.fresh_cut_mm).to be_nil
    end
  end

  it "has its old head whole through its years, and no stub to close" do
    stock = tree(here)
    stem = limb(stock, "A", girth_mm: 230)
    Vestry::Deeds::DecideLimb.call(limb(stock, "Z", bearing_deg: 200), { role: "nurse" }, by: "Orla", season: 2026)
    balance = -> { Vestry::Records::ScaffoldReport.new(Vestry::Records::Tree[stock.id], World::TODAY).balance }
    bare = balance.call
    made = graft(stem, technique: "side-bark", sticks: 1, grafted_on: Date.new(2025, 4, 25))
    Vestry::Deeds::RecordTally.call(made, { tallied_on: Date.new(2025, 10, 10), alive: true, growth_mm: 200.0,
                                            above_mm: 14.0, tallied_by: "Orla" }, by: "Orla", today: World::TODAY)
    enter person("Orla Finch", steward: here)
    open "tally/trees/#{stock.id}"
    expect(said(".docket")).to match(/The head that stands: 100 % of the old one in 2025, foreseen 100 %/)
    expect(said(".docket")).not_to include "stub"
    expect(balance.call).to eq bare
    open "tally/limbs/#{stem.id}"
    expect(said).to include "1 stick in a limb of 60 mm"
    expect(said).not_to include "The stub"
    open "tally/grafts/#{made.id}"
    expect(html.css("[name=open_a]")).to be_empty
  end

  it "shows every graft that lives on a limb, each with the way to the others" do
    stem = limb(tree(here), "A", girth_mm: 230)
    one = graft(stem, grafted_on: Date.new(2026, 4, 20))
    other = graft(stem, grafted_on: Date.new(2026, 4, 28), variety_id: variety(here, "<i>Odd</i>").id)
    enter person("Orla Finch", steward: here)
    open "tend/grafts/#{one.id}"
    expect(said(".docket dl")).to include "Beside it <i>Odd</i>, 28 April"
    open "survey/trees/#{stem.tree_id}?limb=#{stem.id}"
    expect(said(".docket")).to include "Beside it: Skylark Russet, 20 April"
    expect(html.css(".docket a").map { |each| each["href"] })
      .to include("/o/#{here.slug}/tend/grafts/#{one.id}", "/o/#{here.slug}/tend/grafts/#{other.id}")
  end

  it "is sawn where a stub is wanted" do
    stem = plan("rind")
    enter person("Orla Finch", steward: here)
    open "plan/trees/#{stem.tree_id}?limb=#{stem.id}"
    expect(said(".docket")).to include("Cut at 600 mm", "Removes", "Undercut", "closes in")
    open "graft/stubs"
    expect(said("#stub-#{stem.id}")).to include("saw at 600 mm")
    expect(Vestry::Records::TreePlan.new(Vestry::Records::Tree[stem.tree_id], World::TODAY).taken(2026)).to be > 0.1
  end

  it "wants no stored wood for a plant alongside, nor for a bud of summer, which waits for ripe buds" do
    joined, bud, stub = plan("approach", girth: 80), plan("shield-bud", girth: 60), plan("rind")
    enter person("Orla Finch", steward: here)
    open "wood/list"
    expect(html.css("tbody tr th").map { |each| each.text.strip }).to eq ["Of rind"]
    expect(said("#fresh-buds")).to include("1 bud of Of shield-bud, cut from this summer's growth on the day")
    expect(said(".note")).to include("Rooted plants: one of Of approach, for #{joined.label}.")
    open "plan/trees/#{joined.tree_id}?limb=#{joined.id}"
    expect(said("#place")).to include("Takes a rooted plant")
    expect(said("#place")).not_to include("best face")
    windows = here.stub_windows(World::TODAY)
    expect(windows.opens_on(bud.planned)).to eq Date.new(2026, 8, 1)
    expect(windows.opens_on(stub.planned)).to be < World::TODAY
    # A plant is joined when both grow, with the bark, and not while the stock is bare.
    bark = here.bark_forecast(World::TODAY).of_trees([Vestry::Records::Tree[joined.tree_id]]).first
    expect(windows.opens_on(joined.planned)).to eq bark.opens_on
    open "graft/sheet"
    expect(said).to include("Wood the rooted plant beside it")
    expect(html.css("h3").map(&:text).join).to include(joined.label)
    open "graft/stubs"
    # In the hand it is asked which plant it is joined to, of what is joined to one.
    asked = [joined, stub].map { |limb| html.css("#stub-#{limb.id} input[name=donor][required]").size }
    expect([asked, html.at_css("#stub-#{joined.id} .stepper label").text]).to eq [[1, 0], "Limb"]
    open "graft/sheet"
    expect(html.css("h3").map(&:text).join).not_to include(bud.label)
    [bud, stub].each { |limb| Vestry::Deeds::DecideLimb.call(limb, { role: "nurse" }, by: "Orla", season: 2026) }
    Vestry::Deeds::DecideLimb.call(limb(tree(here), "Z", girth_mm: 80),
                                   { role: "later", technique: "approach", cut: 600.0, season: 2027,
                                     variety: variety(here, "Of next year").id, practice: "single" },
                                   by: "Orla", season: 2026)
    open "wood"
    expect(said).to include("one of Of next year", "Raise or order it this year.")
    expect(said).to include("1 rooted plant is wanted, of Of approach: no wood is stored for it.")
  end
end
