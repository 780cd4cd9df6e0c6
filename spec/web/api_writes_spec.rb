# frozen_string_literal: true

require "base64"
require "json_schemer"
require "rack/test"
require "vips"

# Everything that may be written is written once, by its description.
RSpec.describe "Writing through the interface for programs" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let(:key) { Vestry::Records::ApiToken.issue(person("Hanna Sorrel", steward: here), "a script") }
  let(:description) { Vestry::Web::Api::OpenApi.document }
  let(:done) { [] }

  before { allow(Vestry::Outside::Clock).to receive(:today).and_return(Date.new(2026, 5, 18)) }

  def ask(method, path, body = nil, token: key)
    header "Authorization", "Bearer #{token}"
    header "Content-Type", "application/json"
    method == :get ? get("/api/orchards/maunder-hill/#{path}") :
      public_send(method, "/api/orchards/maunder-hill#{"/#{path}" unless path.empty?}", JSON.generate(body || {}))
    last_response.media_type.to_s.end_with?("json") ? JSON.parse(last_response.body) : last_response.body
  end

  # Does it, and holds both what is sent and what comes back to the description.
  def write(method, path, body = {}, id: nil)
    told = description["paths"].fetch("/orchards/{slug}#{"/#{path}" unless path.empty?}").fetch(method.to_s)
    expect([path, faults(told["requestBody"]["content"]["application/json"]["schema"], body)]).to eq [path, []]
    answer = ask(method, path.sub("{id}", id.to_s), body)
    status = method == :post ? 201 : 200
    expect([path, last_response.status, answer["errors"]]).to eq [path, status, nil]
    expect([path, faults(told["responses"][status.to_s]["content"]["application/json"]["schema"], answer)])
      .to eq [path, []]
    done << [method, path]
    answer
  end

  def faults(schema, value)
    JSONSchemer.schema(schema.merge("components" => description["components"]))
      .validate(JSON.parse(JSON.generate(value))).map do |fault|
      fault["error"]
    end
  end

  def planted
    @planted ||= write(:post, "trees", { row: "z", first: 1, last: 2, species: "apple", form: "bush",
                                         trunk_girth: "60 cm" })["items"]
  end

  it "does each thing once, and as it is described" do
    write(:put, "", { name: "Maunder Hill", latitude: 50.6, longitude: -2.9, time_zone: "Europe/London",
                      grazing: "sheep", wind_from: 240, reach: "2.5 m", units: "metric", school: "waxed-rind" })
    expect(here.reload.reach_mm).to eq 2500
    expect(write(:put, "rules/{id}", { value: "1400", why: "our sheep are tall" }, id: "site.browse.sheep")["value"])
      .to eq 1400
    write(:delete, "rules/{id}", {}, id: "site.browse.sheep")

    kind = write(:post, "varieties", { name: "Long Meadow", species: "apple", bloom_from: "20 Apr", bloom_to: "1 May" })
    expect(write(:put, "varieties/{id}", { name: "Long Meadow", species: "apple", notes: "keeps till March" },
                 id: kind["id"])["bloom_from"]).to be_nil
    blooms = [1, 2].map do
      deed = ask(:get, "changes?after=#{Vestry::DB[:history].max(:id) - 1}")["items"].last["deed"]
      expect(write(:post, "deeds/{id}/undo", {}, id: deed)).to eq("undone" => 1)
      Vestry::Records::Variety[kind["id"]].bloom_from
    end
    expect(blooms).to eq ["04-20", nil]
    ask(:post, "deeds/no-such/undo")
    expect(last_response.status).to eq 404
    promise = write(:post, "varieties/{id}/promises", { season: 2027, sticks: 40 }, id: kind["id"])
    write(:delete, "wood_promises/{id}", {}, id: promise["id"])
    order = write(:post, "varieties/{id}/orders", { sticks: 12, source: "a nursery", wanted_by: "2026-06-01" },
                  id: kind["id"])
    expect(order).to include("sticks" => 12, "ordered_on" => "2026-05-18", "received_on" => nil)
    expect(write(:put, "wood_promises/{id}/received", {}, id: order["id"])["received_on"]).to eq "2026-05-18"
    expect(write(:delete, "wood_promises/{id}/received", {}, id: order["id"])["received_on"]).to be_nil

    twin = write(:post, "varieties", { name: "Long Medow", species: "apple", vigour: "weak" })
    expect(write(:put, "varieties/{id}/same-as", { same_as: kind["id"] }, id: twin["id"]))
      .to include("id" => kind["id"], "vigour" => "weak")
    expect(Vestry::Records::Variety[twin["id"]].same_as_id).to eq kind["id"]
    # Sent again, it is of a variety that is no longer there, and of no other.
    [["/same-as", { same_as: kind["id"] }], ["", { name: "Anew", species: "apple" }]].each do |path, fields|
      ask(:put, "varieties/#{twin['id']}#{path}", fields)
      expect([last_response.status, Vestry::Records::Variety[kind["id"]].name]).to eq [404, "Long Meadow"]
    end

    tree, other = planted.map { |each| each["id"] }
    limbs = write(:post, "trees/{id}/lines",
                  { lines: "A ne girth 220 long 2400 from 900 up 40\nB w girth 200 long 2200 from 1000 up 50" },
                  id: tree)["items"]
    branch = write(:post, "trees/{id}/limbs", { tag: "A1", girth: 120, parent: "A", length: "1.2 m", fork: "70 cm",
                                                bearing: 45, rise: 50 }, id: tree)
    expect(write(:put, "limbs/{id}", { girth: "23 cm", length: "2.4 m", fork: "90 cm", bearing: 45, rise: 40,
                                       version: limbs[0]["version"] }, id: limbs[0]["id"])["girth_mm"]).to eq 230
    event = write(:post, "limbs/{id}/events", { kind: "tied-down", happened_on: "2026-05-18", rise: 20 },
                  id: branch["id"])
    expect([event["kind"], here.limb!(branch["id"]).rise_deg]).to eq ["tied-down", 20]
    write(:delete, "limb_events/{id}", {}, id: event["id"])
    expect(here.limb!(branch["id"]).rise_deg).to eq 50
    shorter = write(:post, "limbs/{id}/shortened", { on: "2026-05-18" }, id: limbs[1]["id"])
    expect(write(:post, "limbs/{id}/shortened", {}, id: limbs[1]["id"])["id"]).to eq shorter["id"]
    facts = write(:put, "trees/{id}", { row: "z", number: 1, species: "apple", form: "bush", trunk_girth: "62 cm",
                                        version: here.tree!(tree).version }, id: tree)
    expect(facts["trunk_girth_mm"].to_f).to eq 620.0
    site = write(:post, "trees/{id}/sites", { tag: "S", at: "60 cm", bearing: 90 }, id: tree)
    picture = Base64.strict_encode64(Vips::Image.black(40, 30).write_to_buffer(".png"))
    photo = write(:post, "trees/{id}/photos", { image: picture, caption: "before", limb: limbs[0]["id"] }, id: tree)
    expect([ask(:get, "photos/#{photo['id']}/small")[0, 2].b, last_response.media_type])
      .to eq ["\xFF\xD8".b, "image/jpeg"]

    planned = write(:post, "limbs/{id}/plan", { role: "work", cut: "1 m", long: true, technique: "rind",
                                                variety: kind["id"], practice: "pair" }, id: limbs[0]["id"])
    write(:post, "limbs/{id}/headed", {}, id: limbs[0]["id"])
    expect(write(:delete, "limbs/{id}/headed", {}, id: limbs[0]["id"])["headed_on"]).to be_nil
    write(:post, "limbs/{id}/headed", {}, id: limbs[0]["id"])
    write(:post, "limbs/{id}/take-over", {}, id: branch["id"])
    write(:post, "limbs/{id}/plan", { role: "work", season: 2026, cut: "1 m", technique: "rind",
                                                variety: kind["id"], practice: "pair", version: ask(:get,
                                                  "plan_limbs/#{planned['id']}")["version"] }, id: limbs[0]["id"])
    write(:post, "sites/{id}/plan", { role: "work", technique: "side-bark" }, id: site["id"])
    schools = [{ purpose: "a family tree", school: "film-wrap" }, { purpose: "a family tree" }, { school: nil }]
      .map { |said| write(:put, "trees/{id}/plan", said, id: tree).values_at("school", "purpose") }
    expect(schools.transpose).to eq [["film-wrap", "film-wrap", nil], ["a family tree"] * 3]
    write(:post, "trees/{id}/lines",
          { lines: "A ne girth 220 long 2400 from 900 up 40\nB w girth 200 long 2200 from 1000 up 50\nC s girth 180 " \
                   "long 2000 from 1000 up 50" }, id: other)
    expect(write(:post, "trees/{id}/pace", { seasons: 2 }, id: other)["seasons"]).to eq 2
    write(:post, "trees/{id}/versions", { why: "a wet year" }, id: other)
    write(:post, "trees/{id}/versions/again", { plan: Vestry::Records::Plan.where(tree_id: other).min(:id) }, id: other)
    expect([write(:post, "missed"), write(:delete, "missed")])
      .to match [{ "moved" => an_instance_of(Integer), "to" => an_instance_of(Integer), "stay" => [],
                   "moved_on" => an_instance_of(Integer) },
                 { "moved" => an_instance_of(Integer) }]
    pattern = write(:post, "patterns", { rows: ["Z"], school: "waxed-rind", seasons: 2 })
    expect(ask(:get, "patterns/#{pattern['pattern']}")["trees"]).to eq 2
    expect(write(:post, "patterns/{id}/back", {}, id: pattern["pattern"])).to eq("stay" => [])

    bundle = write(:post, "bundles", { variety: kind["id"], source: "row S", cut_on: "2026-02-14", count: 12,
                                       length: "200", checked: Vestry::Deeds::MakeBundle::CHECKS.keys })
    write(:post, "bundles/{id}/checks", { found: Vestry::Records::Bundle::FINDINGS.first }, id: bundle["id"])
    expect(write(:post, "bundles/{id}/diameters", { diameters: "8 9 9.5" }, id: bundle["id"])).to eq("measured" => 3)
    part = write(:post, "bundles/{id}/splits", { count: 4 }, id: bundle["id"])
    expect(write(:post, "bundles/{id}/away", { count: 3, why: "lent", to: "a neighbour" }, id: part["id"]))
      .to eq("left" => 1)
    expect(write(:post, "bundles/{id}/received", { count: 2 }, id: part["id"])).to eq("left" => 3)
    store = write(:post, "stores", { name: "The cellar" })
    expect(write(:put, "stores/{id}", { name: "The old cellar", thermometer: "cellar-1" }, id: store["id"]))
      .to include("name" => "The old cellar", "thermometer" => "cellar-1")
    write(:post, "bundles/{id}/stays", { store: store["id"] }, id: bundle["id"])
    write(:put, "bundles/{id}/cut-on", { cut_on: "2026-02-12" }, id: bundle["id"])
    shoots = [true, false].map { |whole| write(:put, "bundles/{id}/shoots", { whole: whole }, id: bundle["id"]) }
    expect(shoots.map { |each| each["whole_shoots"] }).to eq [true, false]
    renamed = write(:put, "bundles/{id}/variety", { variety: kind["id"] }, id: bundle["id"])
    expect(renamed["variety_id"]).to eq kind["id"]
    expect(write(:post, "stores/{id}/readings", { csv: "at,celsius\n2026-03-01 08:00,1.5\n2026-03-02 08:00,2\n" },
                 id: store["id"])["new"]).to eq 2
    stick = Vestry::Records::Stick.where(bundle_id: bundle["id"]).first.id
    row = Vestry::Records::PlanQueries.in_use(here).where(limb_id: limbs[0]["id"]).first.id
    write(:post, "plan_limbs/{id}/sticks", { stick: stick }, id: row)
    write(:delete, "sticks/{id}/lock", {}, id: stick)

    write(:post, "trees/{id}/seen", { stage: Vestry::Records::PhenologySeen::STAGES.keys.first, slipping: true,
                                      seen_on: "2026-05-16" }, id: tree)
    expect(write(:post, "weather", { csv: "day,min_c,max_c\n2026-05-16,4,15\n" })).to eq("read" => 1, "gap_days" => 0)
    write(:post, "crew_days", { day: "2026-05-20", hours: 6.5, grafters: 2 })
    write(:post, "plan_limbs/{id}/day", { day: "2026-05-20" }, id: row)

    write(:post, "limbs/{id}/undone", { why: "rain" }, id: limbs[0]["id"])
    made = { grafted_on: "2026-05-18", technique: "rind", variety: kind["id"], stub: "5.5 cm", sticks: 2,
             grafter: "Hanna Sorrel", wrap: "stretch-tape", seal: "wax", cover: "wax-only", bundle: bundle["id"] }
    graft = write(:post, "limbs/{id}/grafts", made, id: limbs[0]["id"])
    expect(Vestry::Records::Stick.where(graft_id: graft["id"]).count).to eq 2
    right = write(:put, "grafts/{id}", made.merge(stub: "6 cm", sticks: 1, version: 1), id: graft["id"])
    expect([right["stub_mm"].to_f, Vestry::Records::Stick.where(graft_id: graft["id"]).count]).to eq [60.0, 1]
    write(:post, "grafts/{id}/visits", { seen_on: "2026-05-18", buds: "asleep", fruit: false }, id: graft["id"])
    write(:post, "grafts/{id}/tasks", { key: "slit-tape", what: "waived" }, id: graft["id"])
    write(:delete, "grafts/{id}/tasks", { key: "slit-tape" }, id: graft["id"])
    write(:put, "grafts/{id}/hands", { to: "Hanna Sorrel" }, id: graft["id"])
    write(:put, "grafts/{id}/loss", { lost_on: "2026-05-18", lost_cause: Vestry::Deeds::RecordLoss::CAUSES.first },
          id: graft["id"])
    write(:delete, "grafts/{id}/loss", {}, id: graft["id"])
    write(:put, "grafts/{id}/loss", { lost_on: "2026-05-18", lost_cause: Vestry::Deeds::RecordLoss::CAUSES.first },
          id: graft["id"])
    write(:post, "grafts/{id}/regraft", {}, id: graft["id"])
    write(:post, "grafts/{id}/tallies", { tallied_on: "2026-05-18", alive: true, growth: "3 cm", open_a: 50,
                                          open_b: 40 }, id: graft["id"])

    wound = write(:post, "wounds", { cause: "teeth", found_on: "2026-05-17", lines: "Z1 bark 30%" })["items"].first
    margins = "0 100-180\n90 90-200\n180 110-190\n270 100-170"
    write(:put, "wounds/{id}", { girth: "60 cm", margins: margins, version: wound["version"] }, id: wound["id"])
    write(:put, "wounds/{id}/course", { course: "bridge" }, id: wound["id"])
    expect(write(:post, "wounds/{id}/covered", {}, id: wound["id"])["covered_on"]).to eq "2026-05-18"
    write(:put, "wounds/{id}/places", { bearings: "10 90 180" }, id: wound["id"])
    expect(write(:post, "wounds/{id}/repairs", { repaired_on: "2026-05-18", course: "bridge", scions: [1, 2],
                                                 fixing: "pins" }, id: wound["id"])["repaired_on"]).to eq "2026-05-18"
    scion = here.wound!(wound["id"]).seated.first.id
    write(:post, "wounds/{id}/visits", { seen_on: "2026-05-18", leaves: Vestry::Core::Repair::Mending::LEAVES.first,
                                         fates: { scion => "alive" } }, id: wound["id"])
    task = Vestry::Records::WoundReport.new(here.wound!(wound["id"]), Date.new(2026, 5, 18)).mending[:tasks]
      .first[:key]
    write(:post, "wounds/{id}/tasks", { key: task, what: "waived" }, id: wound["id"])
    write(:delete, "wounds/{id}/tasks", { key: task }, id: wound["id"])
    write(:put, "wounds/{id}/hands", {}, id: wound["id"])

    visit, tally = here.graft!(graft["id"]).then { |each| [each.visits.first.id, each.tallies.first.id] }
    marks = { what: "stub", kind: "length", points: [[1, 1], [3, 3]], ruler: [[0, 0], [9, 0]], ruler_mm: 10 }
    measure = Vestry::Deeds::MeasurePicture.add(Vestry::Records::Photo[photo["id"]],
                                                Vestry::Deeds::MeasurePicture.figures(marks), by: "Orla Finch")
    { "picture_measures" => measure.id, "visits" => visit, "tallies" => tally, "photos" => photo["id"],
      "phenology_seen" => Vestry::Records::PhenologySeen.first(tree_id: tree).id,
      "wound_visits" => Vestry::Records::WoundVisit.first(wound_id: wound["id"]).id, "wounds" => wound["id"],
      "sites" => site["id"],
      "grafts" => graft["id"], "limbs" => limbs[1]["id"], "trees" => other,
      "varieties" => kind["id"] }.each do |name, id|
      expect(write(:delete, "#{name}/{id}", { why: "a trial" }, id: id)["hidden"]).not_to be_empty
      ask(:get, "#{name}/#{id}")
      expect([name, last_response.status]).to eq [name, 404]
      expect(write(:post, "#{name}/{id}/restore", {}, id: id)["id"]).to eq id
    end
    filled = write(:post, "sites/{id}/grafts", made.except(:bundle).merge(technique: "side-bark", stub: "15 cm",
                                                                          sticks: 1), id: site["id"])
    expect(here.graft!(filled["id"]).limb.tag).to eq "S"
    write(:put, "grafts/{id}/loss", { lost_on: "2026-05-18", lost_cause: "unknown" }, id: filled["id"])
    expect(ask(:post, "grafts/#{filled['id']}/regraft")["errors"]).to eq("graft" => ["was set into a bare stretch"])
    expect(write(:post, "grafts/{id}/bare-again", {}, id: filled["id"])["technique"]).to eq "side-bark"
    expect(here.site!(site["id"]).tag).to eq "S"
    expect(done.uniq).to match_array(Vestry::Web::Api::Writes.all.map { |each| [each.verb, each.path] })
  end

  it "leaves what a steward decides to stewards, and the rest to grafters" do
    grafter = Vestry::Records::ApiToken.issue(person("Tam Reddaway", grafter: here), "x")
    viewer = Vestry::Records::ApiToken.issue(person("Ines Wood", viewer: here), "x")
    Vestry::Web::Api::Writes.all.each do |write|
      [[viewer, "viewer"], *([[grafter, "grafter"]] if write.role == "steward")].each do |token, role|
        ask(write.verb, write.path.sub("{id}", "1"), {}, token: token)
        expect([write.verb, write.path, last_response.status, JSON.parse(last_response.body)["title"]])
          .to eq [write.verb, write.path, 403, "a #{write.role} may; you are a #{role}"]
      end
    end
    expect(Vestry::Web::Api::Writes.all.select { |write| write.role == "steward" }.map(&:path))
      .to include("", "rules/{id}", "varieties", "limbs/{id}/plan", "trees/{id}/pace", "wounds/{id}/course")
  end

  it "names what it cannot take, and who was first" do
    tree = planted.first["id"]
    expect(ask(:post, "trees/#{tree}/limbs", { tag: "A", girth: "22 cm", grith: 3 })["errors"]["grith"].first)
      .to start_with "is not one of tag, girth, parent"
    expect(last_response.status).to eq 422
    expect(ask(:post, "trees/#{tree}/lines", { lines: "A n girth 200\nB what" })["errors"]["lines"])
      .to eq ["line 2: “what” " \
              "#{Vestry::Core::Survey::LimbLine.read_all('B what', units: 'metric', taken: []).first.why}"]
    ask(:post, "trees/#{tree}/limbs", { tag: "A", girth: "22 cm", length: "2 m" })
    expect(ask(:post, "trees/#{tree}/lines", { lines: "A1 on A girth 400" })["errors"]["sure"].first)
      .to include "is that so?"
    expect(ask(:post, "trees/#{tree}/photos", { image: "no picture" })["errors"]["image"]).to eq ["is not base64"]
    expect(ask(:post, "trees/#{tree}/photos", { image: Base64.strict_encode64("no picture") })["errors"]["image"].first)
      .to include "is not a whole photo"
    kind = ask(:post, "varieties", { name: "Long Meadow", species: "apple" })
    ask(:put, "varieties/#{kind['id']}", { name: "Long Meadow", species: "apple", notes: "first" })
    second = ask(:put, "varieties/#{kind['id']}", { name: "Long Meadow", species: "apple", notes: "second",
                                                    version: kind["version"] })
    expect([last_response.status, second["errors"]["notes"].first])
      .to eq [409, "changed meanwhile to “first”; yours was “second”. Save again to keep yours."]
  end
end
