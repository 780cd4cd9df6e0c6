# frozen_string_literal: true

require "rack/test"
require "vips"
require "zip"
require "tmpdir"

RSpec.describe "Out of here and in again" do
  include Rack::Test::Methods

  around { |example| Dir.mktmpdir { |folder| @var = folder; example.run } }
  # Before anything else: the demo's pictures are laid where they are read.
  before { allow(Vestry::Settings).to receive(:var).and_return(@var) }

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let!(:orla) { person(steward: here) }

  before { enter orla }

  def page = last_response.body

  it "packs the whole orchard, and brings it in elsewhere after trying it" do
    expect(send_to("/o/maunder-hill/files/orchard")).to be_between(302, 303)
    export = Vestry::Records::Export.first
    get "/o/maunder-hill/files/orchard/#{export.id}/progress"
    expect(JSON.parse(page)).to include("over" => true, "all" => Vestry::Records::Archive.rows(here))
    get "/o/maunder-hill/files"
    get page[%r{/o/maunder-hill/files/orchard/\d+\.zip}]
    expect(last_response.headers["content-type"]).to eq "application/zip"
    path = File.join(@var, "orchard.zip")
    File.binwrite(path, page)

    before = Vestry::Records::Orchard.count
    upload = -> { Rack::Test::UploadedFile.new(path, "application/zip") }
    bring = lambda do |**fields|
      send_to("/bring", archive: upload.call, **fields)
      follow_redirect!
      last_request.path
    end
    bring.call
    expect(page).to include("orchard.zip cannot be brought in", "an orchard called maunder-hill is here already")
    place = bring.call(slug: "maunder-two")
    expect(page).to include("Maunder Hill can be brought in", ">57<", ">39<")
    expect(Vestry::Records::Orchard.count).to eq before
    expect(send_to("#{place}/begin")).to be_between(302, 303)
    expect(send_to("#{place}/begin")).to eq 422
    get "#{place}/progress"
    expect(JSON.parse(page)).to include("over" => true)
    get "/o/maunder-two/tally/took"
    expect([last_response.status, orla.role_in(Vestry::Records::Orchard.first(slug: "maunder-two"))])
      .to eq [200, "steward"]

    # Taken back, its address is free; brought back, it stands there again as it was.
    expect([send_to("#{place}/undo"), send_to("#{place}/undo")]).to eq [302, 422]
    get "/o/maunder-two/today"
    expect(last_response.status).to eq 404
    expect(orla.orchards.map(&:slug)).to eq ["maunder-hill"]
    expect([send_to("#{place}/restore"), last_response.headers["location"]]).to eq [302, "/o/maunder-two/today"]
    Vestry::Records::Membership.create(orchard_id: Vestry::Records::Orchard.first(slug: "maunder-two").id,
                                       account_id: person("Tam Reddaway").id, role: "viewer")
    expect(send_to("#{place}/undo")).to eq 422
    expect(page).to include("others belong to Maunder Hill by now")
  end

  it "says what of a zip cannot be taken, and shows nobody another's" do
    send_to("/bring", archive: Rack::Test::UploadedFile.new(__FILE__, "application/zip"))
    follow_redirect!
    expect(page).to include("this is not a zip that can be read")
    expect([send_to("/bring"), page]).to match [422, /Choose a zip first/]
    expect([send_to("/bring", archive: Rack::Test::UploadedFile.new(__FILE__), slug: "../x"), page])
      .to match [422, /small letters, digits and dashes, such as/]
    theirs = Vestry::Records::Upload.create(account_id: person("Tam Reddaway").id, token: SecureRandom.uuid,
                                             file_name: "x.zip", bytes: 1, state: "tried")
    %w[begin undo restore].each { |deed| expect([deed, send_to("/bring/#{theirs.token}/#{deed}")]).to eq [deed, 404] }
    expect(send_to("/bring/..%2F..%2Fetc%2Fpasswd/begin")).to eq 404
  end

  it "goes on with what was broken off, and forgets zips that nobody brought in" do
    path = File.join(@var, "orchard.zip")
    Vestry::Records::Archive.pack(here, path)
    upload = File.open(path) { |file| Vestry::Deeds::ImportOrchard.keep(orla, file, name: "orchard.zip",
                                                                        slug: "broken-off") }.refresh
    upload.update(state: "bringing")
    Vestry::Deeds::ImportOrchard.go_on(upload)
    expect([upload.refresh.state, upload.orchard.slug, File.exist?(upload.path)]).to eq ["here", "broken-off", false]
    Vestry::Deeds::ImportOrchard.go_on(upload)
    expect(Vestry::Records::Orchard.where(Sequel.like(:slug, "broken-off%")).count).to eq 1

    old = File.open(path) { |file| Vestry::Deeds::ImportOrchard.keep(orla, file, name: "orchard.zip", slug: "too-old") }
    old.update(created_at: Time.now.utc - 9 * 86_400)
    File.open(path) { |file| Vestry::Deeds::ImportOrchard.keep(orla, file, name: "orchard.zip", slug: "new") }
    expect([old.refresh.state, File.exist?(old.path)]).to eq ["refused", false]
  end

  it "keeps no picture of what is only tried, nor of what could not be brought in" do
    picture = StringIO.new(Vips::Image.black(60, 40).write_to_buffer(".png"))
    Vestry::Deeds::KeepPhoto.call(here.trees.first, picture, by: "Orla", today: World::TODAY)
    path = File.join(@var, "orchard.zip")
    Vestry::Records::Archive.pack(here, path)
    pictures = -> { Dir[File.join(@var, "photos/**/*")].count { |name| File.file?(name) } }
    before = pictures.call
    keep = ->(name, file = path) { File.open(file) { |zip| Vestry::Deeds::ImportOrchard.keep(orla, zip,
      name: "orchard.zip", slug: name) }.refresh }
    upload = keep.call("pictured")
    expect([upload.state, pictures.call]).to eq ["tried", before]
    allow(Vestry::Records::Places).to receive(:settle).and_raise(Sequel::DatabaseError, "broken off")
    Vestry::Deeds::ImportOrchard.begin(upload)
    expect([upload.refresh.state, upload.trouble, pictures.call]).to eq ["refused", "broken off", before]

    broken = File.join(@var, "broken.zip")
    FileUtils.cp(path, broken)
    Zip::File.open(broken) { |zip| zip.get_output_stream("photos/P1-small.jpg") { |io| io << "no picture" } }
    expect(keep.call("broken", broken).then { |each| [each.state, each.trouble] })
      .to eq ["refused", "photos/P1-small.jpg: is not a whole JPEG"]
    expect(pictures.call).to eq before
  end

  it "says how far packing and bringing in are" do
    shares = []
    path = File.join(@var, "orchard.zip")
    rows = []
    Vestry::Records::Archive.pack(here, path) { |row| rows << row }
    expect(rows).to eq rows.sort
    expect(rows.last).to be_between(1, Vestry::Records::Archive.rows(here))
    Vestry::Records::Archive.read(path, slug: "shares") { |share| shares << share }
    expect([shares.sort, shares.first.positive?, shares.last]).to match [shares, true, be_within(0.01).of(1)]
  end

  it "gives tables and places in open formats" do
    get "/o/maunder-hill/files/tables/limbs.csv"
    expect(page.lines.first).to start_with "key,tree,parent,tag,fork_mm"
    get "/o/maunder-hill/files/tables/letters.csv"
    expect(last_response.status).to eq 404
    # What a spreadsheet would carry out is text to it.
    variety(here, "=1+1")
    get "/o/maunder-hill/files/tables/varieties.csv"
    expect(page.lines.grep(/1\+1/).first).to start_with "'=1+1"
    # One whose place nobody measured is drawn by its row and number, and not told as if it were known.
    tree(here, row: "Y", number: 1)
    get "/o/maunder-hill/files/trees.geojson"
    expect(JSON.parse(page)["features"].size).to eq 57
    get "/o/maunder-hill/files/trees.gpx"
    expect(Nokogiri::XML(page).css("wpt name").map(&:text)).to include("C10")
  end

  it "takes a file back while nothing was done with it" do
    import = Vestry::Deeds::ImportFile.preview(here, "trees", "t.csv", "row,number,species\nZ,1,apple\nZ,2,apple\n",
                                            by: "Orla", today: World::TODAY)
    Vestry::Deeds::ImportFile.begin(import)
    standing = -> { here.trees_dataset.where(row: "Z", hidden_at: nil).count }
    expect(standing.call).to eq 2
    first = limb(here.trees_dataset.first(row: "Z", number: 1))
    send_to("/o/maunder-hill/files/#{import.id}/undo")
    expect(standing.call).to eq 2
    first.destroy
    send_to("/o/maunder-hill/files/#{import.id}/undo")
    expect([standing.call, import.reload.undone_at.nil?]).to eq [0, false]
    get "/o/maunder-hill/files/#{import.id}"
    expect(page).to include("t.csv was taken back on").and(satisfy { |body| !body.include?("Take it back") })
    get "/o/maunder-hill/files"
    expect(page).to include("<td>taken back</td>")
    expect { Vestry::Deeds::ImportFile.undo(import, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /taken back already/)
    told = { "file" => "t.csv", "lines" => 2 }
    expect(Vestry::DB[:history].where(table_name: "imports", row_id: import.id).order(:id).map do |line|
      line.values_at(:action, :before, :after).map { |each| each.respond_to?(:to_h) && each ? each.to_h : each }
    end).to eq [["add", nil, told], ["hide", told, nil]]
  end

  it "gives a program a key that is shown once and can be revoked" do
    expect(send_to("/you/tokens", name: "x", scope: "all", days: 90000)).to eq 422
    send_to("/you/tokens", name: "<i>a script</i>", scope: "write", days: 90)
    shown = page[/vst_[\w-]+/]
    expect(Vestry::Records::ApiToken.account(shown).id).to eq orla.id
    get "/you"
    expect(page).to include("&lt;i&gt;a script").and(satisfy { |body| !body.include?(shown) })
    send_to("/you/tokens/revoke", token: Vestry::Records::ApiToken.first.id)
    expect(Vestry::Records::ApiToken.account(shown)).to be_nil
  end

  it "looks a file through once, however often its page is opened" do
    import = Vestry::Deeds::ImportFile.preview(here, "trees", "t.csv", "row,number,species\nZ,1,apple\nZ,2,oak\n",
                                            by: "Orla", today: World::TODAY)
    expect(Vestry::Deeds::ImportFile).not_to receive(:file)
    3.times { get "/o/maunder-hill/files/#{import.id}" }
    expect(page).to include("Z1", "is added", "1 line of 2 cannot be read")
  end

  it "looks a large file through in the background, and says meanwhile that it does" do
    large = "row,number,species\n#{Array.new(20_000) { |i| "Q,#{i + 1},apple" }.join("\n")}\n"
    expect(large.bytesize).to be > Vestry::Deeds::ImportFile::AT_ONCE_BYTES
    allow(Vestry::Deeds::Jobs::ImportStep).to receive(:enqueue)
    import = Vestry::Deeds::ImportFile.preview(here, "trees", "t.csv", large, by: "Orla", today: World::TODAY)
    get "/o/maunder-hill/files/#{import.id}"
    expect(page).to include("is being looked through")
    expect { Vestry::Deeds::ImportFile.begin(import) }.to raise_error(Vestry::Deeds::Refused)
    Vestry::Deeds::Jobs::ImportStep.new({}).run(import.id, "preview")
    get "/o/maunder-hill/files/#{import.id}"
    expect(page).to include("All 20\u202F000 lines of t.csv can be read", "Its first lines")
  end

  it "finds no end of a cell that has none, and says so" do
    open = "row,number,species\nZ,1,\"apple#{'x' * 100_000}\n"
    expect { Vestry::Deeds::ImportFile.preview(here, "trees", "t.csv", open, by: "Orla", today: World::TODAY) }
      .to raise_error(Vestry::Deeds::Refused, /Line 2/)
    expect { Vestry::Deeds::KeepWeather.read_file(here, "day,min_c,max_c\n2026-05-01,\"1#{'x' * 100_000}", by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused)
  end

  it "says of a file that is empty or is no text what it is, and of a cell that cannot be read what stands there" do
    bring = lambda do |bytes, kind = "trees"|
      get "/o/#{here.slug}/files"
      post "/o/#{here.slug}/files", kind: kind, authenticity_token: token,
        file: Rack::Test::UploadedFile.new(StringIO.new(bytes), "text/csv", original_filename: "sheet.csv")
      follow_redirect! if last_response.redirect?
      last_response.body.gsub(/\s+/, " ")
    end
    get "/o/#{here.slug}/files"
    post "/o/#{here.slug}/files", kind: "trees", authenticity_token: token
    expect(last_response.body).to include("Choose a file first.")
    expect(bring[""]).to include("It is empty.")
    expect(bring["PK\x03\x04\x00\x00"]).to include("It is not a text file; save a sheet as CSV first.")
    bring["Tree,Limb,Girth (in),Direction\n#{tree(here).label},A,8 3/4,South\nZ9,B,ten,W\n", "limbs"]
    form = Nokogiri::HTML(last_response.body).css("form").find { |each| each["action"].to_s.end_with?("/layout") }
    post form["action"], FormFields.fields(form)
    follow_redirect! if last_response.redirect?
    expect(last_response.body.gsub(/\s+/, " ")).to include("girth 222 mm", "girth “ten”", "“ten” is not a number")
  end

  it "takes a steward's tables from a steward alone" do
    file = -> { Rack::Test::UploadedFile.new(StringIO.new("name,species\nNew One,apple\n"), "text/csv",
                                             original_filename: "v.csv") }
    bring = ->(table) { get("/o/#{here.slug}/files") &&
                        post("/o/#{here.slug}/files", kind: "table", table: table, file: file.call,
                             authenticity_token: token) }
    clear_cookies
    enter person("Tam Grafter", grafter: here)
    bring.call("varieties")
    expect([last_response.status, last_response.body]).to match [422, /Only a steward brings in varieties/]
    kept = Vestry::Deeds::ImportFile.preview(here, "varieties", "v.csv", "name,species\nNew One,apple\n".b, by: "Orla",
                                          today: World::TODAY)
    get "/o/#{here.slug}/files/#{kept.id}"
    post "/o/#{here.slug}/files/#{kept.id}/begin", authenticity_token: token
    expect([kept.reload.state, Vestry::Records::Variety.where(orchard_id: here.id, name: "New One").count])
      .to eq ["previewed", 0]
  end
end
