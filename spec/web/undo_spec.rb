# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# What was just done is undone from the page that follows: every fact stands as it stood; done again, as it was done.
RSpec.describe "Undoing what was just done" do
  include Rack::Test::Methods
  include FormFields

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard(latitude: 50.6) }
  let!(:kind) { variety(here, "Skylark Russet", bloom_from: "04-20") }
  let(:stock) { tree(here) }
  let!(:first) { limb(stock, "A", length_mm: 2400) }
  let!(:second) { limb(stock, "B", bearing_deg: 200, fork_mm: 1000) }
  let!(:made) { graft(second, variety_id: kind.id) }
  let(:base) { "/o/#{here.slug}" }
  let!(:bundle) do
    Vestry::Deeds::MakeBundle.call(here, { variety: kind.id, source: "a neighbour", cut_on: Date.new(2026, 1, 16),
                                           count: 8, length_mm: 200, ends: "sealed", dip: "none", packing: "damp",
                                           checked: Vestry::Deeds::MakeBundle::CHECKS.keys, store: store.id },
                                   by: "Orla Finch", today: World::TODAY)
  end
  let(:store) { Vestry::Deeds::KeepStore.open(here, "Fridge", by: "Orla Finch") }

  TOLD = %i[orchards trees limbs sites varieties plans plan_limbs plan_sites grafts observations tallies bundles sticks
            bundle_checks bundle_stays wounds wound_visits phenology_seen wood_promises limb_events photos].freeze

  # What is in sight, without what only says how often it was written.
  def facts
    TOLD.to_h do |table|
      rows = Vestry::DB[table].all.reject { |row| row[:hidden_at] || row[:superseded_at] }
      told = rows.map { |row| row.except(:version, :hidden_at).transform_values(&:to_s) }
      [table, told.sort_by { |row| row[:id].to_i }]
    end
  end

  def undo_form = Nokogiri::HTML(last_response.body).at_css("form.undo")

  def press(form)
    post(form["action"], fields(form))
    follow_redirect!
  end

  def other(before, after) = after.reject { |table, rows| rows == before[table] }.keys

  # A form's fields as it shows them, but for some.
  def as_shown(action, page: action, **changed)
    get base + page
    form = Nokogiri::HTML(last_response.body).css("form[method=post]").find { |each| each["action"] == base + action }
    fields(form).merge(changed.transform_keys(&:to_s)).except("authenticity_token").transform_keys(&:to_sym)
  end

  # Does it, undoes it, and does it again where that is offered.
  def there_and_back(path, again: true, **fields)
    before = facts
    expect([path, send_to(base + path, **fields), Nokogiri::HTML(last_response.body).css(".error").text])
      .to eq [path, 302, ""]
    follow_redirect!
    done = facts
    expect(other(before, done)).not_to be_empty
    expect([path, undo_form&.text.to_s]).to match [path, /Undo/]
    press(undo_form)
    expect([path, last_response.status]).to eq [path, 200]
    expect([path, other(before, facts), Nokogiri::HTML(last_response.body).css(".notice").text])
      .to eq [path, [], again ? "" : "Undone: bundle #{bundle.code}."]
    return expect([path, undo_form]).to eq [path, nil] unless again

    expect([path, undo_form&.text.to_s]).to match [path, /Do it again/]
    press(undo_form)
    expect([path, other(done, facts)]).to eq [path, []]
  end

  before { enter person("Orla Finch", steward: here) }

  it "puts corrections back: a tree, a limb, a variety, the settings, a figure of the rulebook" do
    there_and_back("/survey/trees/#{stock.id}", **as_shown("/survey/trees/#{stock.id}", "species" => "pear",
                                                           "height" => "3 m"))
    there_and_back("/survey/limbs/#{first.id}", **as_shown("/survey/limbs/#{first.id}",
                                                           page: "/survey/trees/#{stock.id}?limb=#{first.id}",
                                                           "girth" => "25 cm", "bearing" => "NE", "damage" => "torn"))
    there_and_back("/survey/trees/#{stock.id}", **as_shown("/survey/trees/#{stock.id}", "east" => "12",
                                                           "north" => "30"))
    there_and_back("/settings", **as_shown("/settings", "name" => "Another", "reach" => "2 m"))
    there_and_back("/varieties/#{kind.id}", name: "Skylark", species: "apple", bloom_from: "1 May", bloom_to: "9 May")
    there_and_back("/rulebook/entry/site.browse.sheep", value: "1250", why: "as we found")
  end

  it "makes two varieties of two names again, wherever they stood, what was worked since too" do
    twin = variety(here, "Sky Russett", vigour: "weak")
    stock.update(variety_id: kind.id)
    Vestry::Deeds::DecideLimb.call(first, { role: "work", variety: kind.id }, by: "Orla Finch", season: 2026)
    third = limb(stock, "C", bearing_deg: 300)
    Vestry::Deeds::DecideLimb.call(third, { role: "work", variety: kind.id }, by: "Orla Finch", season: 2026)
    graft(third, variety_id: kind.id)
    get "#{base}/varieties/#{kind.id}"
    expect(last_response.body.gsub(/\s+/, " ")).to include "1 tree, 2 grafts, 1 bundle and 2 planned limbs are of that"
    there_and_back("/varieties/#{kind.id}/same-as", same_as: twin.id.to_s)
    get "#{base}/varieties/#{kind.id}"
    expect([last_response.status, last_response.location]).to match [302, %r{/varieties/#{twin.id}\z}]
    follow_redirect!
    expect(last_response.body).to include "Also called Skylark Russet here."
    get "#{base}/history"
    first = Nokogiri::HTML(last_response.body).at_css(".changes tbody tr")
    expect([first.text, first.css("button").map(&:text)]).to match [/variety Skylark Russet, changed/, ["Undo"]]
    get "#{base}/find?q=Skylark"
    expect(last_response.body.gsub(/\s+/, " ")).to include "Sky Russett</a></b>, apple, also called Skylark Russet"
  end

  it "sends no form of a variety that was merged meanwhile on to the one that is left" do
    left, third = variety(here, "Sky Russett"), variety(here, "Evensong")
    Vestry::Deeds::MergeVariety.call(kind, left, by: "Tam")
    before = facts
    sent = [["/same-as", { same_as: third.id.to_s }], ["/same-as", { same_as: left.id.to_s }],
            ["", { name: "A new name", species: "apple", notes: "typed before", version: left.refresh.version.to_s }]]
    expect(sent.map { |path, fields| send_to("#{base}/varieties/#{kind.id}#{path}", **fields) }).to eq [404] * 3
    expect(other(before, facts)).to eq []
  end

  it "says at its field which variety another name cannot be" do
    [["", "is wanted"], ["999", "register"], [kind.id.to_s, "another variety than itself"]].each do |typed, said|
      variety(here, "Twin #{typed}")
      expect(send_to("#{base}/varieties/#{kind.id}/same-as", same_as: typed)).to eq 422
      expect(Nokogiri::HTML(last_response.body).css("details[open] .error").text).to include said
    end
  end

  it "takes back what was decided: a first role with its plan, none, a place to cut, what it is for" do
    there_and_back("/plan/limbs/#{first.id}/role", role: "nurse")
    there_and_back("/plan/limbs/#{first.id}/role", role: "none")
    expect(first.reload.planned).to be_nil
    there_and_back("/plan/limbs/#{first.id}", role: "work", season: "2026", technique: "rind", cut: "700", sticks: "2",
                                              variety: kind.id.to_s, practice: "pair")
    expect(first.reload.planned.role).to eq "work"
    there_and_back("/plan/trees/#{stock.id}/purpose", purpose: "to eat", school: "waxed-rind")
  end

  it "takes back what was decided of a whole tree: its pace, a season, a branch that takes over" do
    whole = tree(here, number: 7)
    trunk = limb(whole, "A", rise_deg: 60, length_mm: 3000)
    limb(whole, "B", bearing_deg: 120, rise_deg: 55)
    limb(whole, "C", bearing_deg: 240, rise_deg: 55)
    branch = limb(whole, "A1", parent_id: trunk.id, fork_mm: 700, girth_mm: 150, bearing_deg: 30, rise_deg: 50)
    there_and_back("/plan/trees/#{whole.id}/pace", seasons: "2")
    there_and_back("/plan/limbs/#{trunk.id}/season", season: "2028")
    there_and_back("/plan/limbs/#{branch.id}/take-over")
  end

  it "takes back what was recorded: limbs, a graft with its sticks, a visit, a count, a look at bark, what happened" do
    there_and_back("/survey/trees/#{stock.id}/lines", lines: "C n girth 210 long 2000 from 1200\nC1 on C 60 girth 90",
                                                      what: "keep")
    # With what comes off for it.
    limb(stock, "A1", parent_id: first.id, fork_mm: 1400, girth_mm: 90)
    stretch = Vestry::Deeds::MarkSite.call(stock, { tag: "S1", limb_id: first.id, at_mm: 1500.0, bearing_deg: 90.0 },
                                           by: "Orla Finch")
    there_and_back("/graft/limbs/#{first.id}", grafted_on: "2026-05-17", technique: "rind", variety: kind.id.to_s,
                                               stub: "60", cut: "900", sticks: "2", bundle: bundle.id.to_s,
                                               wrap: "stretch-tape", seal: "wax", cover: "wax-only",
                                               grafter: "Orla Finch")
    expect(stretch.refresh.gone_on).to eq Date.new(2026, 5, 17)
    there_and_back("/tend/grafts/#{made.id}/visits", seen_on: "2026-05-17", buds: "swelling")
    there_and_back("/tally/grafts/#{made.id}", tallied_on: "2026-05-17", alive: "no")
    there_and_back("/slip/trees/#{stock.id}/seen", slipping: "yes")
    there_and_back("/survey/limbs/#{first.id}/events", kind: "broken", happened_on: "2026-05-10", left: "80 cm")
    there_and_back("/history/grafts/#{made.id}/hide", why: "not ours")
  end

  it "undoes what was done to a bundle, and leaves it at that" do
    { "check" => { found: "mould" }, "away" => { count: "3", why: "discarded", to: "dry" }, "receive" => { count: "4" },
      "split" => { count: "2" } }.each do |deed, fields|
      before = Vestry::DB[:sticks].where(bundle_id: bundle.id).count
      there_and_back("/wood/bundles/#{bundle.id}/#{deed}", again: false, **fields) unless deed == "split"
      next unless deed == "split"

      send_to("#{base}/wood/bundles/#{bundle.id}/split", **fields)
      follow_redirect!
      press(undo_form)
      expect(Vestry::DB[:sticks].where(bundle_id: bundle.id).count).to eq before
      expect(Vestry::Records::Bundle.in_sight.count).to eq 1
    end
    cellar = Vestry::Deeds::KeepStore.open(here, "Cellar", by: "Orla Finch")
    there_and_back("/wood/bundles/#{bundle.id}/move", again: false, store: cellar.id.to_s)
  end

  it "says so where something was changed since, and changes nothing" do
    send_to("#{base}/survey/trees/#{stock.id}", **as_shown("/survey/trees/#{stock.id}", "height" => "3 m"))
    follow_redirect!
    form = undo_form
    stock.reload.update(height_mm: 2500)
    press(form)
    expect(Nokogiri::HTML(last_response.body).css(".notice").text).to eq "It was not undone: A1 was changed since."
    expect(stock.reload.height_mm).to eq 2500
  end

  it "is offered once, and then in the history alone, to who did it" do
    send_to("#{base}/plan/limbs/#{first.id}/role", role: "nurse")
    follow_redirect!
    expect(undo_form).not_to be_nil
    get "#{base}/plan"
    expect(undo_form).to be_nil
    get "#{base}/history"
    deed = Nokogiri::HTML(last_response.body).css("form[action*='/deeds/']")
    expect(deed.size).to eq 1
    clear_cookies
    enter person("Ines Harrow", steward: here)
    get "#{base}/history"
    expect(last_response.body).not_to include("/deeds/")
    send_to(deed.first["action"])
    follow_redirect!
    expect(last_response.body).to include("It was not undone: it is not there to be undone any more.")
    expect(first.reload.planned.role).to eq "nurse"
  end

  it "is told in words: a graft that was logged is taken back, its loss as it was before" do
    made = graft(limb(tree(here, number: 9)), wrap: "perishing-film", seal: "glue-tip")
    get "/o/#{here.slug}/tend/grafts/#{made.id}"
    post "/o/#{here.slug}/tend/grafts/#{made.id}/visits",
         { authenticity_token: token, client_key: SecureRandom.uuid, seen_on: "2026-05-17", buds: "swelling" }
    back = lambda do
      follow_redirect! while last_response.redirect?
      form = Nokogiri::HTML(last_response.body).at_css("form.undo")
      post form["action"], FormFields.fields(form)
      follow_redirect! while last_response.redirect?
      Nokogiri::HTML(last_response.body).at_css("form.undo [role=status]").text
    end
    expect(back[]).to eq "Visit #{made.limb.label}, taken back."
    get "/o/#{here.slug}/tend/grafts/#{made.id}"
    post "/o/#{here.slug}/tend/grafts/#{made.id}/loss",
         { authenticity_token: token, lost_on: "2026-05-17", lost_cause: "blown-out", lost_note: "" }
    expect(back[]).to eq "Graft #{made.limb.label}, as before."
    get "/o/#{here.slug}/history"
    told = Nokogiri::HTML(last_response.body).css(".changes li").map { |line| line.text.split.join(" ") }
    expect(told).to include("lost cause: – → blown out", "buds: swelling")
    expect(told.grep(/lost note/)).to eq []
  end
end
