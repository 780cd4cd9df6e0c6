# frozen_string_literal: true

require "rack/test"
require "tmpdir"

RSpec.describe "Out of here and in again" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let!(:orla) { person(steward: here) }

  around { |example| Dir.mktmpdir { |folder| @var = folder; example.run } }

  before do
    allow(Vestry::Settings).to receive(:var).and_return(@var)
    enter orla
  end

  def page = last_response.body

  def send_to(path, **fields)
    get "/you"
    post path, fields.merge(authenticity_token: token)
    last_response.status
  end

  it "packs the whole orchard, and brings it in elsewhere after trying it" do
    expect(send_to("/o/maunder-hill/files/orchard")).to be_between(302, 303)
    get "/o/maunder-hill/files"
    get page[%r{/o/maunder-hill/files/orchard/\d+\.zip}]
    expect(last_response.headers["content-type"]).to eq "application/zip"
    path = File.join(@var, "orchard.zip")
    File.binwrite(path, page)

    before = Vestry::Records::Orchard.count
    upload = -> { Rack::Test::UploadedFile.new(path, "application/zip") }
    expect(send_to("/bring", archive: upload.call)).to eq 422
    expect(page).to include("an orchard called maunder-hill is here already")
    expect(send_to("/bring", archive: upload.call, slug: "maunder-two")).to eq 200
    expect(page).to include("57 trees", "39 grafts")
    expect(Vestry::Records::Orchard.count).to eq before
    kept = page[/name="token" value="([^"]+)"/, 1]
    expect(send_to("/bring/begin", token: kept, slug: "maunder-two")).to be_between(302, 303)
    expect(send_to("/bring/begin", token: kept, slug: "maunder-three")).to eq 422
    get "/o/maunder-two/tally/took"
    expect([last_response.status, orla.role_in(Vestry::Records::Orchard.first(slug: "maunder-two"))]).to eq [200, "steward"]
    expect(send_to("/bring", archive: Rack::Test::UploadedFile.new(__FILE__, "application/zip"))).to eq 422
    expect(send_to("/bring")).to eq 422
    expect(send_to("/bring/begin", token: "../../etc/passwd")).to eq 422
  end

  it "gives tables and places in open formats" do
    get "/o/maunder-hill/files/tables/limbs.csv"
    expect(page.lines.first).to start_with "key,tree,parent,tag,fork_mm"
    get "/o/maunder-hill/files/tables/letters.csv"
    expect(last_response.status).to eq 404
    get "/o/maunder-hill/files/trees.geojson"
    expect(JSON.parse(page)["features"].size).to eq 57
    get "/o/maunder-hill/files/trees.gpx"
    expect(Nokogiri::XML(page).css("wpt name").map(&:text)).to include("C10")
  end

  it "takes a file back while nothing was done with it" do
    import = Vestry::Deeds::BringIn.preview(here, "trees", "t.csv", "row,number,species\nZ,1,apple\nZ,2,apple\n", by: "Orla", today: World::TODAY)
    Vestry::Deeds::BringIn.begin(import)
    standing = -> { here.trees_dataset.where(row: "Z", hidden_at: nil).count }
    expect(standing.call).to eq 2
    first = limb(here.trees_dataset.first(row: "Z", number: 1))
    send_to("/o/maunder-hill/files/#{import.id}/undo")
    expect(standing.call).to eq 2
    first.destroy
    send_to("/o/maunder-hill/files/#{import.id}/undo")
    expect([standing.call, import.reload.undone_at.nil?]).to eq [0, false]
    expect { Vestry::Deeds::BringIn.undo(import, by: "Orla") }.to raise_error(Vestry::Deeds::Refused, /taken back already/)
  end

  it "gives a program a key that is shown once and can be revoked" do
    send_to("/you/tokens", name: "<i>a script</i>")
    shown = page[/vst_[\w-]+/]
    expect(Vestry::Records::ApiToken.account(shown).id).to eq orla.id
    get "/you"
    expect(page).to include("&lt;i&gt;a script").and(satisfy { |body| !body.include?(shown) })
    send_to("/you/tokens/revoke", token: Vestry::Records::ApiToken.first.id)
    expect(Vestry::Records::ApiToken.account(shown)).to be_nil
  end

  it "takes a steward's tables from a steward alone" do
    file = -> { Rack::Test::UploadedFile.new(StringIO.new("name,species\nNew One,apple\n"), "text/csv", original_filename: "v.csv") }
    bring = ->(table) { get("/o/#{here.slug}/files") && post("/o/#{here.slug}/files", kind: "table", table: table, file: file.call, authenticity_token: token) }
    clear_cookies
    enter person("Tam Grafter", grafter: here)
    bring.call("varieties")
    expect([last_response.status, last_response.body]).to match [422, /Only a steward brings in varieties/]
    kept = Vestry::Deeds::BringIn.preview(here, "varieties", "v.csv", "name,species\nNew One,apple\n".b, by: "Orla", today: World::TODAY)
    get "/o/#{here.slug}/files/#{kept.id}"
    post "/o/#{here.slug}/files/#{kept.id}/begin", authenticity_token: token
    expect([kept.reload.state, Vestry::Records::Variety.where(orchard_id: here.id, name: "New One").count]).to eq ["previewed", 0]
  end
end
