# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# A kind that bleeds is cut some days before it is grafted, and each page that sends a hand there says so.
RSpec.describe "A stub of a kind that bleeds" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:minded) { /it bleeds: cut it some 5 days before, or notch the trunk low on two sides/i }

  def said(page)
    get "/o/#{here.slug}/#{page}"
    Nokogiri::HTML(last_response.body).tap { |html| html.css("script, style").remove }
  end

  def planned(species, technique, cut: 600.0)
    stem = limb(tree(here, row: species[0].upcase, species: species), girth_mm: 170)
    Vestry::Deeds::DecideLimb.call(stem, { role: "work", technique: technique, cut: cut, season: 2026,
                                           variety: variety(here, "Of #{species}", species: species).id,
                                           practice: "single", against_reason: "it stands so" },
                                   by: "Orla", season: 2026)
    stem
  end

  before { enter person("Orla Finch", steward: here) }

  it "is minded on the list of what to saw, and one that does not bleed is not" do
    planned("walnut", "cleft")
    planned("plum", "cleft")
    rows = said("plan/cuts").css("table.list tbody tr").to_h { |row| [row.at_css("th").text, row.at_css(".mind").text] }
    expect(rows).to match("W1 A" => minded, "P2 A" => "")
  end

  it "is minded on a tree of any kind that was seen to bleed when it was last looked at" do
    stem = planned("plum", "cleft")
    Vestry::Deeds::SeeStage.call(stem.tree, stage: nil, slipping: true, bleeds: true, on: World::TODAY,
                                            today: World::TODAY, by: "Tam")
    send_to("/o/#{here.slug}/slip/crew/fix", plan_limb: stem.planned.id, day: "2026-05-24")
    at = "#{stem.tree.label} A"
    expect(said("plan/cuts").at_css(".mind").text).to match minded
    expect(said("plan/trees/#{stem.tree_id}?limb=#{stem.id}").text).to match minded
    expect(said("slip/crew").at_css("[data-day='2026-05-24']").text).to match(/#{at}.*, to be cut by 19 May/m)
    expect(said("graft/sheet?on=2026-05-24").at_css("article.card").text).to match minded
  end

  it "is not where a bud is set, for nothing is cut then" do
    stem = planned("walnut", "chip-bud")
    voice = Class.new { include Vestry::Web::Sentences }.new
    place = here
    voice.define_singleton_method(:orchard) { place }
    expect([voice.mind_bleeding(stem, "chip-bud"), voice.mind_bleeding(stem, "cleft")]).to match [nil, minded]
    expect(said("plan/trees/#{stem.tree_id}?limb=#{stem.id}").text).not_to match minded
  end

  it "is minded on the day's sheet, on paper and stub by stub, and in the crew's days" do
    stem = planned("walnut", "cleft")
    send_to("/o/#{here.slug}/slip/crew/fix", plan_limb: stem.planned.id, day: "2026-05-24")
    day = Date.new(2026, 5, 24)
    on = -> { said("slip/crew").at_css(".crew-day[data-day='#{day}']").text }
    expect(on.call).to match(/W1 A.*, to be cut by 19 May, for it bleeds/m)
    # A Sunday alone could be this week's or the next.
    expect(said("slip/crew").at_css("h1").text).to eq "Sunday, 24 May: 1 stub, beginning with W1 A."
    send_to("/o/#{here.slug}/slip/crew/fix", plan_limb: stem.planned.id, day: (day = Date.new(2026, 5, 23)).iso8601)
    expect(on.call).to match(/W1 A.*, to be cut by 18 May, for it bleeds/m)
    send_to("/o/#{here.slug}/slip/crew/fix", plan_limb: stem.planned.id, day: (day = Date.new(2026, 5, 22)).iso8601)
    expect(on.call).to match(/W1 A.*, it bleeds: notch the trunk low on two sides/m)
    expect(said("graft/sheet?on=#{day}").at_css("article.card").text).to match minded
    expect(said("graft/stubs?on=#{day}").at_css("details.mind").text).to match(/It bleeds\..*#{minded}/mi)
    get "/o/#{here.slug}/graft/sheet.pdf?on=#{day}"
    expect(last_response.status).to eq 200
  end
end
