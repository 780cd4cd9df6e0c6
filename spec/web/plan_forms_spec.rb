# frozen_string_literal: true

require "rack/test"

RSpec.describe "Forms of plan and wood, with what people mistype" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let(:apple) { here.trees_dataset.first(row: "B", number: 7) }
  let(:limb_id) { apple.limbs.first.id }

  before { enter person(steward: here) }

  def send_form(path, **fields)
    get "/you"
    post "/o/maunder-hill/#{path}", fields.merge(authenticity_token: token)
    last_response
  end

  def page = last_response.body

  it "shows a long match a page at a time, those that go short first, and stays on the page that was pressed on" do
    stub_const("Vestry::Records::MatchBoard::PAGE", 5)
    get "/o/maunder-hill/wood/match?page=3"
    expect(page).to include("Page 3 of 3")
    form = Nokogiri::HTML(page).at_css("form:has(input[name=page][value='3']):has(input[name=stick])")
    row, stick = %w[plan_limb stick].map { |name| form.at_css("input[name=#{name}]")["value"] }
    send_form("wood/match/keep", plan_limb: row, stick: stick, page: "3")
    expect(last_response.headers["location"]).to match %r{/wood/match\?page=3#\w}
    get "/o/maunder-hill/wood/match?page=99"
    expect(page).to include("Page 3 of 3")
    board = Vestry::Records::MatchBoard.new(here, 2026, World::TODAY)
    expect((1..board.pages).flat_map { |number| board.page(number) }.map { |place| place.row.id }).to match_array(board
      .places.map { |place| place.row.id })
    expect(board.page(1).first(board.short)).to all(have_attributes(short: be_positive))
  end

  it "offers the season in which a stub that died can be made again" do
    limb = Vestry::Records::Limb[limb_id]
    made = graft(limb, grafted_on: Date.new(2026, 4, 21), lost_on: Date.new(2026, 5, 10), lost_cause: "failed")
    plan = limb.tree.plan || Vestry::Records::Plan.create(orchard_id: here.id, tree_id: limb.tree_id)
    row = Vestry::Records::PlanLimb.of(plan, limb) ||
      Vestry::Records::PlanLimb.create(orchard_id: here.id, plan_id: plan.id, limb_id: limb_id, role: "work",
                                       season: 2026)
    row.update(role: "work", season: 2026, technique: "rind", cut_mm: 600, sticks: 2, variety_id: made.variety_id,
               hidden_at: nil, after_graft_on: nil)
    offered = [World::TODAY, Date.new(2026, 7, 20)].map do |day|
      fresh = Vestry::Records::Limb[limb_id]
      Vestry::Web::PlanAdvice.new(fresh, season: 2026, today: day).current_values[:season]
    end
    expect(offered).to eq [2026, 2027]
    # Sent as it stands, it says that the limb is made again so; sent once more, nothing.
    path = "/o/maunder-hill/plan/trees/#{limb.tree_id}?limb=#{limb_id}"
    said = Array.new(2) do
      get path
      form = Nokogiri::HTML(page).css("form").find { |each| each["action"].end_with?("/plan/limbs/#{limb_id}") }
      before = row.reload.version
      post form["action"], FormFields.fields(form)
      [form.at_css("button.keep").text, row.reload.version - before, row.failed?(made.reload)]
    end
    expect(said).to eq [["Plan it again so", 1, false], ["Keep this plan", 0, false]]
    expect(row.values.slice(:season, :after_graft_on)).to eq(season: 2026, after_graft_on: made.grafted_on)
  end

  it "keeps the place and the method that it proposes where a limb was decided without, and misses a place taken out" do
    limb = Vestry::Records::Limb[limb_id]
    send_form("plan/limbs/#{limb_id}/role", role: "lift")
    send_form("plan/limbs/#{limb_id}/role", role: "work")
    row = limb.reload.planned
    expect(row.cut_mm).to be_nil
    sent = lambda do |**typed|
      get "/o/maunder-hill/plan/trees/#{limb.tree_id}?limb=#{limb_id}"
      form = Nokogiri::HTML(page).css("form").find { |each| each["action"].end_with?("/plan/limbs/#{limb_id}") }
      shown = FormFields.fields(form)
      post form["action"], { **shown, **typed }
      [last_response.status, shown["technique"]]
    end
    status, shown = sent.call
    expect([status, row.reload.technique, row.cut_mm.nil?]).to eq [302, shown, false]
    expect { expect(sent.call("cut" => " ").first).to eq 422 }.not_to(change { row.reload.values })
    expect(Nokogiri::HTML(page).css(".error").text).to include "is missing"
  end

  it "looks at a cut on the limb, however far off it the address says" do
    limb = Vestry::Records::Limb[limb_id]
    shown = [-5.0, 1.0, 1e9].map do |at|
      Vestry::Web::PlanAdvice.new(limb, season: 2026, today: World::TODAY, at_mm: at).at_mm
    end
    expect(shown).to eq [1.0, 1.0, limb.length_mm - 1.0]
  end

  it "sends the drawing alone where it is moved, and the page around it where it is opened" do
    %w[plan survey].each do |station|
      get "/o/maunder-hill/#{station}/window?x=0&y=0&w=40"
      expect([last_response.status, page.include?("<svg"), page.include?("<html")]).to eq [200, true, false]
    end
  end

  it "names what a role, a season and a share can be, and writes nothing" do
    expect(send_form("plan/limbs/#{limb_id}/role", role: "burn").status).to eq 422
    expect(page).to include("work, later, backup, nurse, renew, lift")
    expect(send_form("plan/limbs/#{limb_id}/season", season: "1812").status).to eq 422
    expect(page).to include("from 2026 to 2035")
    ["0", "-5", "101", "1e9", "half"].each do |cap|
      expect([cap, send_form("plan/trees/#{apple.id}/pace", seasons: 2, cap: cap).status]).to eq [cap, 422]
      expect([cap, page]).to match [cap, include("is a share from 1 to 100 %")]
    end
    expect(send_form("plan/trees/#{apple.id}/pace", seasons: "99").status).to eq 422
    expect(Vestry::Records::Plan.where(tree_id: apple.id).count).to eq 0
  end

  it "explains a cap that no limb can meet" do
    expect(send_form("plan/trees/#{apple.id}/pace", seasons: 2, cap: "5").status).to eq 422
    expect(page).to include("Cannot be done in 2 seasons here.")
    expect(page).to include("Cannot be kept.", "Compare again")
    get "/o/maunder-hill/plan/trees/#{apple.id}?cap=45"
    expect(page.scan(/Choose (\w+) season/).flatten).to eq %w[2 3]
    send_form("plan/trees/#{apple.id}/pace", seasons: 2)
    apple.reload.plan.update(cap: 0.05)
    get "/o/maunder-hill/plan/trees/#{apple.id}"
    expect(page).to include("Cannot be kept.", "alone carries", "would do")
  end

  it "takes a share as per cent, with a comma or a sign" do
    expect(send_form("plan/trees/#{apple.id}/pace", seasons: 2, cap: "45,5 %").status).to be_between(302, 303)
    expect(apple.reload.plan.cap.to_f).to be_within(1e-9).of(0.455)
    expect(send_form("plan/trees/#{apple.id}/pace", seasons: 2, cap: "100").status).to be_between(302, 303)
    expect(apple.reload.plan.cap.to_f).to eq 1.0
  end

  it "escapes what was typed into a name, a purpose and a reason" do
    evil = "<script>alert(1)</script>"
    send_form("plan/trees/#{apple.id}/pace", seasons: 2)
    send_form("plan/trees/#{apple.id}/purpose", purpose: evil, school: "waxed-rind")
    get "/o/maunder-hill/plan/trees/#{apple.id}"
    expect(page).to include("&lt;script&gt;alert(1)").and(satisfy { |body| !body.include?(evil) })
    send_form("varieties", name: evil, species: "apple")
    get "/o/maunder-hill/varieties"
    expect(page).not_to include(evil)
  end

  it "keeps a variety's form as it was typed, with what is wrong at its field" do
    expect(send_form("varieties", name: "Late Bell", species: "apple", bloom_from: "soon", bloom_to: "31 April",
                     outside: "true").status).to eq 422
    expect(page.scan("a day and a month, such as 5 May").size).to eq 2
    expect(page).to include('value="soon"', 'value="31 April"', 'value="Late Bell"')
    expect(send_form("varieties", name: "Late Bell", species: "apple", outside: "true").status).to eq 422
    expect(page).to include("say where the wood comes from")
    expect(Vestry::Records::Variety.where(name: "Late Bell").count).to eq 0
  end

  it "tells the second of two who change a variety at once, with both values" do
    kind = here.varieties.find { |each| each.name == "Evensong" }
    form = { name: "Evensong", species: "apple", vigour: "weak", protected: "true", permission: "Licence 7",
             version: kind.version }
    expect(send_form("varieties/#{kind.id}", **form).status).to be_between(302, 303)
    expect(send_form("varieties/#{kind.id}", **form, vigour: "middling").status).to eq 409
    expect(page).to include("changed meanwhile to “weak”; yours was “middling”")
  end

  it "refuses a season, a count and a stick that cannot be, of a promise and of a bundle" do
    kind = here.varieties.first
    [{ season: "never", sticks: 4 }, { season: 2026, sticks: 0 }, { season: 2026, sticks: -3 }, { season: 2026 }]
      .each do |form|
      expect([form, send_form("varieties/#{kind.id}/promises", **form).status]).to eq [form, 422]
    end
    bundle = Vestry::Records::Bundle.first
    [["away", { count: "99", why: "lent", to: "x" }], ["away", { count: "2", why: "eaten", to: "x" }],
     ["split", { count: "all" }], ["receive", { count: "-1" }], ["measure", { diameters: "8 90" }],
     ["measure", { diameters: " " }], ["check", { found: "fine" }], ["date", { cut_on: "2027-01-01" }],
     ["date", { cut_on: "sometime" }]].each do |act, form|
      expect([act, form, send_form("wood/bundles/#{bundle.id}/#{act}", **form).status]).to eq [act, form, 422]
    end
    expect(Vestry::Records::WoodPromise.count).to eq 0
    expect(Vestry::Records::Stick.where(bundle_id: bundle.id).here.count).to eq bundle.left
  end

  it "does the same form twice once" do
    form = { client_key: SecureRandom.uuid, rows: ["B"], school: "waxed-rind", seasons: 2 }
    2.times { expect(send_form("plan/pattern", **form).status).to be_between(302, 303) }
    expect(Vestry::Records::Pattern.count).to eq 1
    kind = here.varieties.find { |each| each.name == "Tollgate Amber" }
    made = { client_key: SecureRandom.uuid, variety: kind.id, source: "row S", cut_on: "2026-01-16", count: 5,
             checked: Vestry::Deeds::MakeBundle::CHECKS.keys }
    before = Vestry::Records::Bundle.count
    2.times { expect(send_form("wood/bundles", **made).status).to be_between(302, 303) }
    expect([Vestry::Records::Bundle.count - before,
            Vestry::Records::Stick.where(bundle_id: Vestry::Records::Bundle.max(:id)).count]).to eq [1, 5]
  end

  it "keeps a stick for one stub alone, and of its own variety" do
    row = Vestry::Records::PlanQueries.stubs_of(here, 2026).all.find do |each|
      each.complete? && each.variety.name == "Tollgate Amber"
    end
    sticks = Vestry::Records::Bundle.all.to_h { |bundle| [bundle.variety.name, bundle.sticks.first] }
    expect(send_form("wood/match/keep", plan_limb: row.id, stick: sticks["Evensong"].id).status).to eq 422
    expect(send_form("wood/match/keep", plan_limb: row.id, stick: sticks["Tollgate Amber"].id).status)
      .to be_between(302, 303)
    expect(send_form("wood/match/keep", plan_limb: row.id, stick: sticks["Tollgate Amber"].id).status).to eq 422
    expect(send_form("wood/match/keep", plan_limb: row.id, stick: 999_999).status).to eq 404
    expect(send_form("wood/match/free", stick: sticks["Tollgate Amber"].id).status).to be_between(302, 303)
    expect(Vestry::DB[:stick_locks].count).to eq 0
  end

  it "reckons a dip in the orchard's own measures, and says what cannot be read" do
    get "/o/maunder-hill/wood/dip"
    expect(page[/id="d-target"[^>]+value="([^"]*)"/, 1] || page[/value="([^"]*)"[^>]*id="d-target"/, 1]).to eq "0.5"
    get "/o/maunder-hill/wood/dip?way=make&total=2&total_in=jug&target=0.2&strength=4.5"
    expect(page).to include("88.9 ml, about 6 tablespoons")
    get "/o/maunder-hill/wood/dip?way=make&total=2&total_in=jug&target=9&strength=4.5"
    expect(page).to include("stronger than the bottle")
    get "/o/maunder-hill/wood/dip?way=mixed&product=1&product_in=cup&water=1&water_in=cup&strength=4.5"
    expect(page).to include("2.25 %", "4.5 times the usual")
    ["way=make&total=-2&target=1&strength=4", "way=make&total=&target=1&strength=4",
     "way=mixed&product=0&water=0&strength=4", "way=make&total=1&target=1&strength=400"].each do |query|
      get "/o/maunder-hill/wood/dip?#{query}"
      expect([query, page.include?('class="error"')]).to eq [query, true]
    end
  end
end
