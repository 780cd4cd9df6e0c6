# frozen_string_literal: true

require "rack/test"

# Walks every route of every part with every kind of person.
RSpec.describe "Who may go where" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let!(:elsewhere) { orchard }

  # Every route inside an orchard, as [method, address] with real numbers in it.
  def routes
    graft = here.grafts_dataset.first(grafted_on: Date.new(2025, 4, 21))
    photo = Vestry::Records::Photo.first || Vestry::Deeds::KeepPhoto
      .call(graft.limb.tree, StringIO.new(Vips::Image.black(8, 8).write_to_buffer(".png")), by: "Orla",
            today: World::TODAY)
    marks = { what: "stub", kind: "length", points: [[1, 1], [3, 3]], ruler: [[0, 0], [9, 0]], ruler_mm: 10 }
    measure = Vestry::Records::PictureMeasure.first || Vestry::Deeds::MeasurePicture
      .add(photo, Vestry::Deeds::MeasurePicture.figures(marks), by: "Orla")
    file = Vestry::Records::Import.first || Vestry::Deeds::ImportFile
      .preview(here, "trees", "t.csv", "row,number,species\nZ,1,apple\n", by: "Orla", today: World::TODAY)
    site = Vestry::Records::Site.first || Vestry::Records::Site
      .create(orchard_id: here.id, tree_id: graft.limb.tree_id, tag: "S1", at_mm: 900, bearing_deg: 90)
    pattern = Vestry::Records::Pattern.first || Vestry::Records::Pattern
      .create(orchard_id: here.id, wish: Sequel.pg_jsonb({}), tree_ids: Sequel.pg_array([], :integer), by: "Orla",
              state: "done")
    event = Vestry::Records::LimbEvent.first || Vestry::Records::LimbEvent
      .create(orchard_id: here.id, limb_id: graft.limb_id, kind: "tied-down", happened_on: World::TODAY, rise_deg: 20,
              by: "Orla")
    allotted = Vestry::Records::AllotmentRun.first || Vestry::Records::AllotmentRun
      .asked(here, { "seasons" => 2, "more" => {} }, by: "Orla", client_key: nil)
    packed = Vestry::DB[:exports].get(:id) || Vestry::Deeds::PackOrchard.begin(here, by: "Orla")
    bundle = Vestry::Records::Bundle.first || raise("the demo has no wood")
    ids = { "bundles" => bundle.id, "stores" => Vestry::Records::Store.first.id, "varieties" => here.varieties.first.id,
            "sites" => site.id, "patterns" => pattern.id, "photos" => photo.id, "files" => file.id,
            "trees" => graft.limb.tree_id, "limbs" => graft.limb_id, "grafts" => graft.id,
            "repair" => Vestry::Records::Wound.first.id, "wounds" => Vestry::Records::Wound.first.id,
            "orchard" => packed, "events" => event.id, "allotments" => allotted.id, "invites" => 1,
            "members" => 999_999, "tries" => 999_999, "cuts" => 999_999,
            "measures" => measure.id }
    Vestry::Web::OrchardRouter::STATIONS.flat_map do |name, station|
      %w[GET POST].flat_map do |method|
        (station.routes[method] || []).map do |route, *|
          path = route.to_s.sub("/:kind/:id", "/limbs/:id")
          path = path.sub(":size", "small").sub(%r{\A/:id}) { "/#{ids.fetch(name)}" }
          path = path.sub(%r{\A/:name\z}, "/to-wood")
          path = path.gsub(%r{/(\w+)/:id}) { "/#{$1}/#{ids.fetch($1)}" }.sub(":row", "A")
            .sub(":path", "species.apple.take").sub(":page", "care").sub(":token", "x")
              .sub("tables/:name", "tables/trees").sub("orchard/:id", "orchard/#{packed}")
                .sub(%r{/orchard/\d+\.zip\z}, "/orchard/#{packed}.zip")
          [method, "/o/maunder-hill/#{name}#{path == '/' ? '' : path}", name]
        end
      end
    end.uniq
  end

  # Addresses that name what the demo has none of.
  NOT_THERE = %r{nursery(\.pdf|/received)|members/999999|tries/999999|cuts/999999|promises/withdraw|match/keep|crew/fix}

  before { routes }

  def counts
    (Vestry::DB.tables - %i[schema_info door_counts account_active_session_keys door_log known_devices revisions derived
                            care_tasks care_mark care_states care_runs que_jobs]).to_h do |table|
      [table, Vestry::DB[table].count]
    end
  end

  def knock(method, address)
    Vestry::DB[:door_counts].delete
    if method == "GET"
      get(address)
    else
      get("/you")
      post(address, authenticity_token: token, role: "viewer")
    end
    last_response.status
  end

  it "finds routes to walk in every part" do
    expect(routes.map(&:last).uniq).to match_array Vestry::Web::OrchardRouter::STATIONS.keys
    expect(routes.size).to be > 30
  end

  it "shows nothing and writes nothing for someone signed out" do
    before = counts
    routes.each do |method, address, _|
      method == "GET" ? get(address) : (get("/sign-in") && post(address, authenticity_token: token))
      expect([address, last_response.status, last_response.headers["location"]]).to match [address, 302, %r{/sign-in\z}]
      expect(last_response.body).not_to include("Maunder Hill")
    end
    expect(counts).to eq before
  end

  it "shows nothing and writes nothing for a member of another orchard" do
    enter person("Other Steward", steward: elsewhere)
    before = counts
    routes.each do |method, address, _|
      expect([method, address, knock(method, address)]).to eq [method, address, 404]
      expect(last_response.body).not_to include("Maunder Hill")
    end
    expect(counts).to eq before
  end

  it "reaches no row of another orchard through one's own" do
    enter person("Other Steward", steward: elsewhere)
    before = counts
    routes.select { |_, address, _| address.match?(/\d/) }.each do |method, address, _|
      address = address.sub("maunder-hill", elsewhere.slug)
      status = knock(method, address)
      expect([address, status]).to eq [address, 404] unless address.include?("/invites/")
      expect(last_response.body).not_to include("Skylark")
    end
    expect(counts).to eq before
  end

  it "lets a viewer read and write nothing" do
    enter person("Vera Viewer", viewer: here)
    before = counts
    routes.each do |method, address, _|
      stewards = address.match?(%r{/outbox|/people/door|/files/orchard/|/share/trees/\d+\z})
      wanted = method == "GET" && !stewards ? [200, 302] : [403]
      wanted = [200, 302] if address.end_with?("/leave")
      # What one practises is one's own; an answer with nothing in it is none.
      wanted = [200, 302, 404, 422] if address.include?("/practice")
      wanted = [404] if address.end_with?("/nursery.pdf")
      next if address.end_with?("/leave")

      expect([method, address, wanted]).to(satisfy { wanted.include?(knock(method, address)) })
    end
    expect(counts).to eq before
  end

  it "lets a grafter record, and leaves deciding to the steward" do
    enter person("Gus Grafter", grafter: here)
    routes.select { |method, address, _| method == "POST" && !address.end_with?("/leave") }
      .each do |method, address, name|
      refused = knock(method, address) == 403
      expect([address, refused]).to eq [address, %w[plan varieties settings rulebook people share].include?(name) ||
                                        address.end_with?("/course", "/files/orchard", "/wood/nursery")]
    end
    expect(%w[outbox door].map { |page| knock("GET", "/o/maunder-hill/people/#{page}") }).to eq [403, 403]
  end

  it "lets a steward everywhere" do
    enter person("Sue Steward", steward: here)
    routes.reject { |_, address, _| address.end_with?("/leave") }.each do |method, address, _|
      status = knock(method, address)
      expect([method, address, status]).to(satisfy { [200, 302, 303, 422].include?(status) ||
                                                     (status == 404 && address.match?(NOT_THERE)) })
    end
  end
end
