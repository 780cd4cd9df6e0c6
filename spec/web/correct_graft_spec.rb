# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# What was logged of a graft, read again and put right.
RSpec.describe "A graft that was logged" do
  include Rack::Test::Methods
  include FormFields

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:made) do
    graft(limb(tree(here)), scion_mm: 9, bark_slip: "reluctant", brace: true, conditions: "gusty",
                            donor: "the pot by the gate")
  end
  let(:page) { "/o/#{here.slug}/graft/grafts/#{made.id}" }

  def html = Nokogiri::HTML(last_response.body)
  def said(css) = html.css(css).text.gsub(/\s+/, " ").strip

  def send_with(more)
    get page
    post page, fields(html.at_css("#log-form")).merge(more)
  end

  it "is put right from its own page, and what it was stays in the history" do
    amber = variety(here, "Tollgate Amber")
    enter person("Orla Finch", grafter: here)
    get "/o/#{here.slug}/tend/grafts/#{made.id}"
    expect(html.css("a").find { |each| each.text == "Correct what was logged" }["href"]).to eq page
    send_with("variety" => amber.id.to_s, "stub" => "48 mm", "brace" => "")
    expect([last_response.status, said(".error")]).to eq [302, ""]
    follow_redirect!
    expect(said(".docket h2 .sub")).to start_with "Tollgate Amber"
    expect(made.reload.values.slice(:stub_mm, :stub_typed, :brace)).to eq(stub_mm: 48, stub_typed: "48 mm",
                                                                          brace: false)
    expect(said("form[action$='/undo'] button")).to eq "Undo"
    post html.at_css("form[action$='/undo']")["action"], fields(html.at_css("form[action$='/undo']"))
    expect(made.reload.values.slice(:stub_mm, :brace)).to eq(stub_mm: 60, brace: true)
  end

  it "is asked and told of a bud no wrap, seal, cover or perch, and none is kept" do
    shoot = limb(tree(here), "B", girth_mm: 40)
    enter person("Orla Finch", grafter: here)
    bud = "/o/#{here.slug}/graft/limbs/#{shoot.id}"
    get "#{bud}?technique=chip-bud"
    unasked = html.css("[data-methods]").select { |part| part.key?("hidden") }.flat_map { |part| part.css("[name]") }
    expect(unasked.map { |each| each["name"] }).to eq %w[bark_slip bark_slip bark_slip wrap seal cover perch donor]
    sent = fields(html.at_css("#log-form")).merge("variety" => variety(here).id.to_s, "technique" => "chip-bud",
                                                  "stub" => "12 mm", "sticks" => "1", "perch" => "true",
                                                  "grafted_on" => World::TODAY.iso8601, "faces" => "",
                                                  "against_reason" => "late wood")
    post bud, sent
    expect([last_response.status, said(".error")]).to eq [302, ""]
    logged = shoot.reload.graft
    expect(logged.values.slice(:wrap, :seal, :cover, :perch)).to eq(wrap: nil, seal: nil, cover: nil, perch: false)
    get "/o/#{here.slug}/tend/grafts/#{logged.id}"
    expect(html.css("legend").map(&:text) & %w[Seal Wrap Tie]).to eq %w[Tie]
    post bud, sent.except("wrap").merge("technique" => "rind", "stub" => "40 mm", "client_key" => SecureRandom.uuid)
    expect([last_response.status, said(".error")]).to eq [422, "is wanted"]
  end

  it "is made on its limb, and not beyond its end" do
    stem = limb(tree(here), "E", girth_mm: 230, length_mm: 1500)
    enter person("Orla Finch", grafter: here)
    log = lambda do |cut|
      get "/o/#{here.slug}/graft/limbs/#{stem.id}?technique=rind"
      post "/o/#{here.slug}/graft/limbs/#{stem.id}", fields(html.at_css("#log-form"))
        .merge("variety" => variety(here, "Of #{cut}").id.to_s, "technique" => "rind", "stub" => "50 mm", "cut" => cut,
               "sticks" => "1", "faces" => "", "grafted_on" => World::TODAY.iso8601, "wrap" => "film", "seal" => "wax",
               "cover" => "tape-only", "grafter" => "Orla")
      [last_response.status, said(".error")]
    end
    expect(log["1501 mm"]).to match [422, /is beyond its end: A1 E is 1.50 m long/]
    expect(html.at_css("[name=cut]")["value"]).to eq "1501 mm"
    expect(log["1500 mm"]).to eq [302, ""]
    set = "/o/#{here.slug}/graft/grafts/#{stem.reload.graft.id}"
    get set
    post set, fields(html.at_css("#log-form")).merge("cut" => "1501 mm")
    expect([last_response.status, said(".error")]).to match [422, /is beyond its end/]
  end

  it "keeps what its kind does not know where it is sent back as it stands" do
    old = graft(limb(tree(here), "C", girth_mm: 40), technique: "chip-bud", stub_mm: 12, sticks: 1, perch: true,
                                                     against_reason: "late wood")
    enter person("Orla Finch", grafter: here)
    get "/o/#{here.slug}/graft/grafts/#{old.id}"
    expect { post "/o/#{here.slug}/graft/grafts/#{old.id}", fields(html.at_css("#log-form")) }
      .not_to(change { old.reload.values })
    expect(last_response.status).to eq 302
    get "/o/#{here.slug}/tally/limbs/#{old.limb_id}"
    expect(said("main")).not_to include("wax", "Bound", "perch")
  end

  it "keeps what was typed where it cannot be so, and says why at its field" do
    enter person("Orla Finch", steward: here)
    send_with("stub" => "12 mm", "conditions" => "rain")
    expect(last_response.status).to eq 422
    expect(said(".error")).to include "Rind graft works from 25 mm to 120 mm; this stub is 12 mm"
    expect(html.at_css("[name=conditions]")["value"]).to eq "rain"
    send_with("grafted_on" => "2031-01-01")
    expect(said(".error")).to include "lies in the future"
    expect(made.reload.grafted_on).to eq Date.new(2026, 4, 21)
  end

  it "is looked at by a viewer, who does not correct it" do
    enter person("Ines Marl", viewer: here)
    get page
    expect([last_response.status, html.css("#log-form button").map(&:text) - [""]]).to eq [200, []]
    post page, fields(html.at_css("#log-form")).merge("stub" => "40 mm")
    expect([last_response.status, made.reload.stub_mm]).to eq [403, 60]
  end

  it "tells in the limb's story all that was written down, and by whom" do
    seen = { orchard_id: here.id, graft_id: made.id }
    Vestry::Records::Visit.create(seen_on: Date.new(2026, 5, 2), buds: "leafing", sticks_alive: 1, seen_by: "Tam Ley",
                                  **seen)
    Vestry::Records::TaskDone.create(key: "slit-tape:1", what: "waived", why: "it rained.",
                                     done_on: Date.new(2026, 5, 3), done_by: "Wim Oake", **seen)
    Vestry::Records::Tally.create(season: 2026, tallied_on: Date.new(2026, 10, 3), alive: true, growth_mm: 900,
                                  above_mm: 14, below_mm: 52, waist: true, angle_deg: 40, crop_kg: 2.5,
                                  tallied_by: "Ines Marl", **seen)
    made.update(lost_on: Date.new(2026, 11, 2), lost_cause: "blown-out", lost_note: "the big gale")
    enter person("Orla Finch", viewer: here)
    get "/o/#{here.slug}/tend/grafts/#{made.id}"
    lines = html.css(".story li").map { |each| each.text.gsub(/[[:space:]]+/, " ").strip }
    expect(lines[1]).to include("wood 9 mm thick", "beside the pot by the gate", "cut 600 mm from the fork",
                                "by Orla Finch", "the bark lifted reluctantly, braced", "Weather: gusty.")
    expect(lines[2]).to eq "2 May, Tam Ley Buds leafing, 1 stick alive."
    expect(lines[3]).to match(/\A3 May, Wim Oake .+: left out, it rained\.\z/)
    expect(lines[4]).to eq "3 October, Ines Marl Autumn tally: alive, grew 900 mm, 14 mm thick above the union, " \
                           "52 mm below it, a waist at the union, 40° to the upright, crop 2.5 kg."
    expect(lines[5]).to eq "2 November 2026 Lost: blown out. the big gale"
  end
end
