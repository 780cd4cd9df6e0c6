# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# A bare stretch of trunk from the survey to the autumn count.
RSpec.describe "A bare stretch" do
  include Rack::Test::Methods
  include FormFields

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let(:kind) { variety(here) }
  let(:base) { "/o/#{here.slug}" }

  def html = Nokogiri::HTML(last_response.body).tap { |page| page.css("script, style").remove }
  def said(css = "main") = html.css(css).xpath(".//text()").map(&:text).join(" ").gsub(/[[:space:]]+/, " ")
  def open(page) = get("#{base}/#{page}")

  def form(action) = html.css("form[method=post]").find { |each| each["action"] == "#{base}/#{action}" }

  def send(page, action, more)
    open page
    post "#{base}/#{action}", fields(form(action)).merge(more)
  end

  def planned
    limb(stock, "B", bearing_deg: 200)
    site = Vestry::Deeds::MarkSite.call(stock, { tag: "S", at_mm: 700.0, bearing_deg: 90.0 }, by: "Orla")
    Vestry::Deeds::DecideSite.call(site, { role: "work", technique: "side-bark", variety: kind.id }, by: "Orla",
                                   season: 2026)
    site
  end

  def filled(site, on: Date.new(2026, 4, 20))
    Vestry::Deeds::FillSite.call(site, { technique: "side-bark", grafted_on: on, stub_mm: 150.0, variety_id: kind.id,
                                         sticks: 1, grafter: "Orla", wrap: "stretch-tape", seal: "wax",
                                         cover: "wax-only", faces: [] }, by: "Orla", today: World::TODAY)
  end

  it "is planned, listed, grafted, and is a limb that is looked after and counted" do
    site = planned
    enter person("Orla Finch", steward: here)
    open "plan/trees/#{stock.id}"
    expect(html.css("a").map { |each| each["href"] }).to include "#{base}/graft/sites/#{site.id}"
    open "graft"
    expect(said("#bare + ul")).to match(/A1 S , 700 mm up the trunk: side bark graft of Skylark Russet/)
    open "wood/list"
    expect(html.at_css("tbody tr td").text.strip).to eq "1"
    send("graft/sites/#{site.id}", "graft/sites/#{site.id}", "stub" => "150 mm", "scion" => "9 mm")
    expect([last_response.status, said(".error")]).to eq [302, ""]
    grown = Vestry::Records::Limb.first(tree_id: stock.id, tag: "S")
    expect(grown.values.slice(:fork_mm, :bearing_deg, :rise_deg, :surveyed_on, :gone_on))
      .to eq(fork_mm: 700, bearing_deg: 90, rise_deg: 45, surveyed_on: World::TODAY, gone_on: nil)
    expect(grown.graft.values.slice(:technique, :stub_mm, :cut_mm)).to eq(technique: "side-bark", stub_mm: 150,
                                                                          cut_mm: nil)
    expect(site.reload).to be_hidden
    follow_redirect!
    expect(said("h1")).to include "A1 S"
    open "graft"
    expect(html.css("#bare")).to be_empty
    open "survey/trees/#{stock.id}"
    expect([last_response.status, html.css("svg a[href$='limb=#{grown.id}'], a[href$='limb=#{grown.id}']").empty?])
      .to eq [200, false]
    open "tally/grafts/#{grown.graft.id}"
    expect(last_response.status).to eq 200
  end

  it "goes with the limb that it is on, or with the end of it, and comes back with it" do
    branch = limb(stock, "B", bearing_deg: 200, length_mm: 2000)
    site = Vestry::Deeds::MarkSite.call(stock, { tag: "S", at_mm: 700.0, bearing_deg: 90.0, limb_id: branch.id },
                                        by: "Orla")
    Vestry::Deeds::DecideSite.call(site, { role: "work", technique: "side-bark", variety: kind.id }, by: "Orla",
                                   season: 2026)
    enter person("Orla Finch", steward: here)
    seen = lambda do
      open "graft"
      listed = html.css("#bare").any?
      open "wood/list"
      wanted = html.at_css("tbody tr td")&.text.to_s.strip
      open "survey/trees/#{stock.id}"
      [listed, wanted == "1", said.include?("Bare stretches"), get("#{base}/graft/sites/#{site.id}").status]
    end
    change = lambda do |facts|
      branch.update(facts)
      seen.call
    end
    here_it_is, gone = [true, true, true, 200], [false, false, false, 404]
    expect([seen.call, change[gone_on: World::TODAY], change[gone_on: nil], change[length_mm: 650],
            change[length_mm: 700]]).to eq [here_it_is, gone, here_it_is, gone, here_it_is]
    branch.update(gone_on: World::TODAY)
    expect { Vestry::Deeds::FillSite.call(site.reload, {}, by: "Orla", today: World::TODAY) }
      .to raise_error(Vestry::Records::Missing)
  end

  it "says on every page that its wood is to be cut off, and the limb's log says what its top takes with it" do
    stem = limb(stock, "B", bearing_deg: 200, length_mm: 2400)
    limb(stock, "C", bearing_deg: 20)
    twig = limb(stock, "B1", parent_id: stem.id, fork_mm: 1500, girth_mm: 90)
    graft(twig, variety_id: kind.id)
    site = Vestry::Deeds::MarkSite.call(stock, { tag: "S", limb_id: stem.id, at_mm: 1000.0, bearing_deg: 90.0 },
                                        by: "Orla")
    Vestry::Deeds::DecideSite.call(site, { role: "work", technique: "side-bark", variety: kind.id }, by: "Orla",
                                   season: 2026)
    enter person("Orla Finch", steward: here)
    pages = ["plan/trees/#{stock.id}", "graft", "graft/sites/#{site.id}"]
    off = /S comes off with B, which is to be cut at 900 mm, below it, in 2026/
    told = -> { pages.map { |page| (open(page) && said).match?(off) } }
    expect(told.call).to eq [false] * 3
    Vestry::Deeds::DecideLimb.call(stem, { role: "work", technique: "rind", cut: 900.0, variety: kind.id,
                                           season: 2026, against_reason: "B1 is not wanted" }, by: "Orla", season: 2026)
    expect(told.call).to eq [true] * 3
    # As it was planned, or as the address has it cut elsewhere.
    taken = ->(query) { open("graft/limbs/#{stem.id}#{query}") && said[/Cut at [\d.]+ m?m, B takes with it [^.]+\./] }
    grafted = "the graft of #{kind.name} on B1"
    expect([taken[""], taken["?cut=1200"], taken["?cut=1600"], taken["?technique=tongued-side"]])
      .to eq ["Cut at 900 mm, B takes with it #{grafted} and the bare stretch S.",
              "Cut at 1.20 m, B takes with it #{grafted}.", nil, nil]
  end

  it "is as thick as it was measured, which its method has to work and its log begins with" do
    limb(stock, "B", bearing_deg: 200)
    enter person("Orla Finch", steward: here)
    send("survey/trees/#{stock.id}", "survey/trees/#{stock.id}/sites", "tag" => "S", "bearing" => "NE",
                                                                        "at" => "70 cm", "thick" => "30 mm")
    site = Vestry::Records::Site.first(tag: "S")
    expect(site.diameter_mm).to eq 30
    send("plan/trees/#{stock.id}", "plan/sites/#{site.id}", "role" => "work", "technique" => "side-bark",
                                                            "variety" => kind.id.to_s)
    expect(said(".error")).to include "works from 40 mm to 250 mm; it is 30 mm thick there"
    send("plan/trees/#{stock.id}", "plan/sites/#{site.id}", "role" => "work", "technique" => "tongued-side",
                                                            "variety" => kind.id.to_s)
    open "graft/sites/#{site.id}"
    expect(html.at_css("[name=stub]")["value"]).to eq "30 mm"
    expect(said(".sheet .steps")).to include "tongue"
  end

  it "never has the head above it taken off" do
    site = planned
    made = filled(site, on: Date.new(2026, 5, 1))
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 6, 10),
                                  buds: "leafing", callus: "full", verdict: "took", seen_by: "Orla")
    rules = ->(graft, day) { Vestry::Records::CoreInputs.care(graft, day)[:tasks].map { |task| task[:rule] } }
    expect(rules[made, Date.new(2026, 7, 1)]).to include("slit-tape")
    expect(rules[made, Date.new(2026, 7, 1)]).not_to include("side-weaken")
    side = graft(limb(stock, "C", girth_mm: 300), technique: "side-bark", sticks: 1, grafted_on: Date.new(2026, 5, 1))
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: side.id, seen_on: Date.new(2026, 6, 10),
                                  buds: "leafing", callus: "full", verdict: "took", seen_by: "Orla")
    expect(rules[side, Date.new(2026, 7, 1)]).to include("side-weaken")
  end

  it "refuses a method that is set on a stub, keeps what was typed, and is filled once" do
    site = planned
    enter person("Orla Finch", grafter: here)
    send("graft/sites/#{site.id}", "graft/sites/#{site.id}", "stub" => "150 mm", "technique" => "rind",
                                                             "conditions" => "still")
    expect([last_response.status, said(".error").include?("is one that works a side")]).to eq [422, true]
    expect(html.at_css("[name=conditions]")["value"]).to eq "still"
    open "graft/sites/#{site.id}"
    typed = fields(form("graft/sites/#{site.id}")).merge("stub" => "150 mm")
    2.times do
      post "#{base}/graft/sites/#{site.id}", typed
      expect(last_response.status).to eq 302
    end
    expect(Vestry::Records::Graft.count).to eq 1
    post "#{base}/graft/sites/#{site.id}", typed.merge("client_key" => SecureRandom.uuid)
    expect(last_response.status).to eq 404
    open "graft/sites/#{site.id}"
    expect(last_response.status).to eq 404
  end

  it "is bare again, and planned as it was, when the graft on it is undone at once" do
    site = planned
    enter person("Orla Finch", grafter: here)
    send("graft/sites/#{site.id}", "graft/sites/#{site.id}", "stub" => "150 mm")
    follow_redirect!
    back = html.at_css("form[action$='/undo']")
    post back["action"], fields(back)
    expect([site.reload.hidden_at, Vestry::Records::Graft.in_sight.count,
            Vestry::Records::Limb.in_sight.where(tag: "S").count]).to eq [nil, 0, 0]
    open "graft"
    expect(html.css("#bare").size).to eq 1
  end

  it "is bare again where its graft dies, is planned and filled again, and its limb goes on" do
    site = planned
    made = filled(site)
    grown = made.limb
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: World::TODAY, verdict: "failed",
                                  seen_by: "Orla")
    enter person("Orla Finch", grafter: here)
    open "tend/grafts/#{made.id}"
    expect(said).to include "beside it"
    expect(said).not_to match(/Cut back|regrowth|lower/)
    post "#{base}/tend/grafts/#{made.id}/regraft", fields(form("tend/grafts/#{made.id}/regraft"))
    follow_redirect!
    expect(said(".notice")).to match(/A1 S is a bare stretch again, and is to be filled again in 202\d with Skylark/)
    expect([site.reload.hidden_at, grown.reload.gone_on]).to eq [nil, World::TODAY]
    open "graft/sites/#{site.id}"
    again = fields(form("graft/sites/#{site.id}")).merge("stub" => "150 mm", "client_key" => SecureRandom.uuid)
    post "#{base}/graft/sites/#{site.id}", again
    expect(last_response.status).to eq 302
    expect([site.reload.hidden?, grown.reload.gone_on, grown.grafts_dataset.count]).to eq [true, nil, 2]
    open "tally/limbs/#{grown.id}"
    expect(said.scan(/Grafted with/).size).to eq 2
  end

  it "is bare again where its graft was logged by mistake and is taken away, and filled where that is taken back" do
    site = planned
    made = filled(site)
    stands = -> { [site.reload.hidden?, made.limb.reload.hidden?, made.reload.hidden?] }
    expect(Vestry::Deeds::Hide.reach(made)).to eq("limbs" => 1, "grafts" => 1)
    Vestry::Deeds::Hide.call(made, by: "Orla")
    expect(stands.call).to eq [false, true, true]
    expect { Vestry::Deeds::Hide.undo(made.reload, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /bring that back/)
    Vestry::Deeds::Hide.undo(made.limb.reload, by: "Orla")
    expect(stands.call).to eq [true, false, false]
    Vestry::Deeds::Hide.call(made.reload, by: "Orla")
    again = filled(site.reload)
    expect([again.limb_id, again.id == made.id, made.limb.reload.hidden?]).to eq [made.limb_id, false, false]
    another = graft(made.limb, technique: "side-bark", cut_mm: nil)
    Vestry::Deeds::Hide.call(another, by: "Orla")
    expect([site.reload.hidden?, again.reload.hidden?, again.limb.reload.hidden?]).to eq [true, false, false]
  end
end
