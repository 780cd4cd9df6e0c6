# frozen_string_literal: true

require "json_schemer"
require "rack/test"

RSpec.describe "The interface for programs" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let!(:elsewhere) { orchard }
  let!(:tam) { person("Tam Reddaway", grafter: here) }
  let(:key) { Vestry::Records::ApiToken.issue(tam, "a script") }
  let(:description) { Vestry::Web::Api::OpenApi.document }

  def ask(method, path, body = nil, token: key)
    header "Authorization", token && "Bearer #{token}"
    header "Content-Type", "application/json"
    method == :get ? get("/api#{path}") : public_send(method, "/api#{path}",
                                                      body.is_a?(String) ? body : JSON.generate(body || {}))
    last_response.body.empty? ? nil : JSON.parse(last_response.body)
  end

  def status = last_response.status

  it "is described, and the description and the routes are the same list" do
    expect(JSONSchemer.openapi(description).validate.map { |fault| fault["error"] }.first(3)).to eq []
    routes = Vestry::Web::Api::App.routes.slice("GET", "POST", "PUT", "DELETE").flat_map do |method, all|
      all.map { |pattern, *| [method.downcase, pattern.to_s] }
    end
    told = description["paths"].flat_map do |path, methods|
      methods.keys.map { |method| [method, path.gsub(/\{(\w+)\}/, ':\1')] }
    end
    generic = ->(path) { path.sub(%r{\A(/orchards/:slug)/(#{Vestry::Records::Archive::Rows::NAMES.join('|')})(/:id)?\z},
                                  '\1/:table\3').sub(%r{\A/reckon/[\w-]+\z}, "/reckon/:name") }
    expect(told.map { |method, path| [method, method == "get" || path.start_with?("/reckon") ? generic[path] :
                                      path] }.uniq).to match_array routes.uniq
    expect(ask(:get, "/openapi.json", token: nil)).to eq JSON.parse(JSON.generate(description))
  end

  it "says of a field what it is in its own form, and else what it is anywhere" do
    told = lambda do |path, name|
      properties = description["paths"]["/orchards/{slug}/#{path}"]["post"]["requestBody"].to_s
      properties[/"#{name}"=>\{.*?"description"=>"([^"]*)"/, 1]
    end
    expect([told["bundles", "diameters"], told["bundles", "variety"], told["patterns", "trees"]])
      .to match [include("one after another"), include("the id of one of varieties"), include("labels of single trees")]
  end

  it "answers every documented reading, by its schema, a page at a time" do
    schemas = description["components"]["schemas"]
    Vestry::Records::Archive::Rows::NAMES.each do |name|
      page = ask(:get, "/orchards/maunder-hill/#{name}?limit=3")
      schemer = JSONSchemer.schema(schemas["page-#{name}"].merge("components" => { "schemas" => schemas }))
      expect([name, status, schemer.validate(page).map { |fault| fault["error"] }.first]).to eq [name, 200, nil]
      expect([name, page["items"].size <= 3]).to eq [name, true]
    end
    first = ask(:get, "/orchards/maunder-hill/trees?limit=50")
    second = ask(:get, "/orchards/maunder-hill/trees?limit=50&after=#{first['next']}")
    expect([(first["items"] + second["items"]).map { |tree| tree["id"] }.uniq.size, second["next"]]).to eq [57, nil]
    expect(ask(:get, "/orchards/maunder-hill/weather?limit=2")["items"].size).to eq 2
    expect(ask(:get, "/orchards/maunder-hill/trees?limit=x")["errors"]).to eq("limit" => ["a whole number from 0 up"])
  end

  it "wants a key, and a revoked one opens nothing" do
    expect([ask(:get, "/orchards", token: nil)["status"], status, last_response.headers["content-type"]])
      .to eq [401, 401, "application/problem+json"]
    ask(:get, "/orchards", token: "vst_nonsense")
    expect(status).to eq 401
    expect(ask(:get, "/orchards")["items"]).to eq [{ "slug" => "maunder-hill", "name" => "Maunder Hill",
                                                     "role" => "grafter" }]
    Vestry::Records::ApiToken.dataset.update(revoked_at: Time.now)
    ask(:get, "/orchards")
    expect(status).to eq 401
  end

  it "stays within one's own orchards and role" do
    [["/orchards/#{elsewhere.slug}", 404], ["/orchards/#{elsewhere.slug}/trees", 404], ["/orchards/none/trees", 404],
     ["/orchards/maunder-hill/letters", 404], ["/orchards/maunder-hill/trees/999999", 404],
     ["/orchards/maunder-hill/trees/x", 404]].each do |path, wanted|
      ask(:get, path)
      expect([path, status]).to eq [path, wanted]
    end
    viewer = Vestry::Records::ApiToken.issue(person("Ines Wood", viewer: here), "x")
    expect(ask(:post, "/orchards/maunder-hill/trees", { row: "Z", first: 1, last: 1, species: "apple" },
               token: viewer)["title"]).to eq "a grafter may; you are a viewer"
    expect(status).to eq 403
    foreign = tree(elsewhere)
    ask(:post, "/orchards/maunder-hill/trees/#{foreign.id}/lines", { lines: "A n girth 200" })
    expect(status).to eq 404
  end

  it "writes a season by the same rules as the pages" do
    trees = ask(:post, "/orchards/maunder-hill/trees", { row: "z", first: 1, last: 2, species: "apple",
        form: "bush" })["items"]
    expect([status, trees.map { |tree| [tree["row"], tree["number"]] }]).to eq [201, [["Z", 1], ["Z", 2]]]
    expect(ask(:post, "/orchards/maunder-hill/trees/#{trees[0]['id']}/lines",
               { lines: "A ne girth 220 long 2400 from 900 up 40\nB what" })["errors"]["lines"].first)
                 .to start_with "line 2: “what”"
    limb = ask(:post, "/orchards/maunder-hill/trees/#{trees[0]['id']}/lines",
               { lines: "A ne girth 220 long 2400 from 900 up 40" })["items"].first
    kind = here.varieties.find { |each| each.name == "Skylark Russet" }
    allow(Vestry::Outside::Clock).to receive(:today).and_return(Date.new(2026, 5, 19))
    deed = { grafted_on: "2026-05-18", technique: "rind", variety: kind.id, stub: "5.5 cm", sticks: 2,
             grafter: "Tam Reddaway", wrap: "stretch-tape", seal: "wax", cover: "wax-only",
             client_key: SecureRandom.uuid }
    expect(ask(:post, "/orchards/maunder-hill/limbs/#{limb['id']}/grafts", deed.merge(stub: "9 stone"))["errors"].keys)
      .to eq ["stub"]
    made = Array.new(2) { ask(:post, "/orchards/maunder-hill/limbs/#{limb['id']}/grafts", deed) }
    graft = made.first
    expect([status, made.map { |each| each["id"] }.uniq.size, graft.values_at("stub_mm", "variety_id")])
      .to eq [201, 1, [55.0, kind.id]]
    visit = ask(:post, "/orchards/maunder-hill/grafts/#{graft['id']}/visits", { seen_on: "2026-05-19", buds: "asleep" })
    expect([status, visit["seen_by"]]).to eq [201, "Tam Reddaway"]
    expect(ask(:post, "/orchards/maunder-hill/grafts/#{graft['id']}/visits", { seen_on: "2026-05-19" })["errors"])
      .to have_key("buds")
    expect(ask(:post, "/orchards/maunder-hill/grafts/#{graft['id']}/tallies",
               { tallied_on: "2026-05-19", alive: true, growth: "30 mm" })["growth_mm"]).to eq 30.0
    ask(:post, "/orchards/maunder-hill/grafts/#{graft['id']}/tasks", { key: "nonsense", what: "done" })
    expect(status).to eq 422
    expect(ask(:post, "/orchards/maunder-hill/grafts/#{graft['id']}/tasks",
               { key: "slit-tape", what: "waived" })["what"]).to eq "waived"
    expect(ask(:post, "/orchards/maunder-hill/wounds", { cause: "teeth", found_on: "2026-05-19",
        lines: "Z1 girth 300 bark 10%" })["items"].first["bark_left"])
            .to eq 0.1
  end

  it "reckons as the shell does, and names the field it cannot take" do
    expect(ask(:post, "/reckon/section", { girth_mm: 220, bark_mm: 3 })["diameter_mm"]).to be_within(1e-4).of(70.0282)
    expect(ask(:post, "/reckon/section", { girth_mm: -1 }))
      .to include("status" => 422, "errors" => { "girth_mm" => ["a number in mm above 0 up to 100000"] })
    expect([ask(:post, "/reckon/nothing")["status"], ask(:post, "/reckon/section", "{")["title"],
            ask(:post, "/reckon/section", "[1]")["title"]]).to eq [404, "the body is not JSON",
                "a JSON object is wanted"]
    expect(ask(:post, "/reckon/section", "\"\xff\"".b).values_at("status", "title"))
      .to eq [400, "the body is not UTF-8 text"]
    expect(ask(:get, "/reckon")["reckonings"]).to eq Vestry::Core::RECKONINGS.keys
    ask(:get, "/nothing")
    expect(status).to eq 404
  end


  it "asks for a key in all that it describes, but for the description itself" do
    open = description["paths"].flat_map do |path, methods|
      methods.reject { |_, told| told.is_a?(Hash) && told["security"].nil? || told["security"] != [] }.map { path }
    end
    expect(open).to eq ["/openapi.json"]
  end


  it "reads a table whose rows have no number a page at a time, to its end, each row once" do
    rows, after = [], nil
    loop do
      told = ask(:get, "/orchards/maunder-hill/scion_fates?limit=4#{"&after=#{after}" if after}")
      rows.concat(told["items"])
      after = told["next"] or break
    end
    expect(rows.size).to be > 8
    expect([rows.size, rows.uniq.size]).to eq [Vestry::DB[:scion_fates].where(orchard_id: here.id).count] * 2
  end
end
