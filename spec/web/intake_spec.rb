# frozen_string_literal: true

require "rack/test"

RSpec.describe "What comes in, and how answers go out" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(name: "Trial Hill") }
  let!(:orla) { person("Orla Finch", steward: here) }

  def upload(bytes, type = "application/zip")
    Rack::Test::UploadedFile.new(StringIO.new("x" * bytes), type, original_filename: "o.zip")
  end
  def temporary = Dir.children(Dir.tmpdir).grep(/\ARackMultipart/)

  # Statuses of posts of so many bytes, without a body being read.
  def lengths(path, sizes, **env)
    sizes.map do |bytes|
      post(path, {}, { "CONTENT_LENGTH" => bytes.to_s,
                       "CONTENT_TYPE" => "application/x-www-form-urlencoded" }.merge(env)).status
    end
  end

  it "takes no more than a form from nobody signed in, and reads nothing of what is larger" do
    before = temporary
    post "/bring", archive: upload(200_000), authenticity_token: "x"
    expect([last_response.status, last_response.body]).to match [413, /more than can be taken/]
    expect(lengths("/sign-in", [70_000, 5_000_000_000])).to eq [413, 413]
    expect(lengths("/api/orchards/#{here.slug}/varieties", [70_000])).to eq [413]
    expect(temporary).to eq before
  end

  it "wants to know beforehand how much there is" do
    post "/sign-in", {}, "HTTP_TRANSFER_ENCODING" => "chunked", "CONTENT_LENGTH" => nil
    expect(last_response.status).to eq 411
  end

  it "takes a form, a file and a packed orchard from who is signed in, each up to its size" do
    enter orla
    megabytes = ->(count) { count * 1024 * 1024 }
    expect(lengths("/o/#{here.slug}/varieties", [megabytes[3]])).to eq [413]
    file = { "CONTENT_TYPE" => "multipart/form-data; boundary=x" }
    expect(lengths("/o/#{here.slug}/files", [megabytes[46]], **file)).to eq [413]
    expect(lengths("/bring", [megabytes[Vestry::Settings.most_upload_mb + 1]], **file)).to eq [413]
  end

  it "leaves nothing of a refused file in the temporary folder" do
    enter orla
    before = temporary
    get "/bring"
    post "/bring", archive: upload(300_000), slug: "Not A Slug!", authenticity_token: token
    expect(last_response.status).to eq 422
    post "/o/nowhere/files", file: upload(300_000), authenticity_token: token
    expect(temporary - before).to eq []
  end

  it "takes in large files a few at a time" do
    entered, go = Queue.new, Queue.new
    inner = lambda do |_|
      entered << true
      go.pop
      [200, {}, ["in"]]
    end
    intake = Vestry::Web::Stack::Intake.new(inner)
    ask = -> { intake.call(Rack::MockRequest.env_for("/bring", method: "POST", "CONTENT_LENGTH" => "9000000",
                                                     "CONTENT_TYPE" => "multipart/form-data; boundary=x",
                                                     "rack.session" => { "account_id" => 1 })).first }
    few = Array.new(Vestry::Web::Stack::Intake::AT_ONCE) { Thread.new { ask.call } }
    few.each { entered.pop }
    expect(ask.call).to eq 503
    few.each { go << true }
    expect(few.map(&:value)).to eq [200] * few.size
    go << true
    expect(ask.call).to eq 200
  end

  it "lets no page of an orchard be shown from a cache unasked, and has what a browser is to hold to on every answer" do
    enter orla
    paths = ["/o/#{here.slug}/survey", "/you", "/nothing", "/o/nowhere/survey", "/sign-in", "/api/orchards",
             "/calendar/x.ics", "/health", "/vestry.css"]
    answers = paths.to_h { |path| [path, get(path).headers] }
    answers.each do |path, headers|
      expect([path, headers.slice("x-content-type-options", "x-frame-options", "cross-origin-opener-policy",
                                  "cross-origin-resource-policy").values]).to eq [path,
                                    %w[nosniff DENY same-origin same-origin]]
      expect([path, headers["content-security-policy"]]).to match [path, /default-src 'none'/]
      allowed = path == "/o/#{here.slug}/survey" ? /\Aprivate, no-cache\z/ : /no-store/
      expect([path, headers["cache-control"]]).to match [path, allowed] unless path == "/vestry.css"
    end
    clear_cookies
    get "/o/#{here.slug}/survey"
    expect([last_response.status, last_response.headers["x-frame-options"], last_response.headers["cache-control"]])
      .to eq [302, "DENY", "no-store"]
    post "/sign-in"
    expect([last_response.status, last_response.body.empty?]).to eq [403, false]
  end

  it "says by TLS to stay with it on files too, and answers HEAD as GET without a body" do
    get "/vestry.css", {}, "HTTPS" => "on"
    expect(last_response.headers["strict-transport-security"]).to include("max-age")
    enter orla
    ["/o/#{here.slug}/survey", "/sign-in", "/health", "/nothing", "/api/orchards"].each do |path|
      wanted = get(path).status
      head path
      expect([path, last_response.status, last_response.body]).to eq [path, wanted, ""]
    end
  end

  it "asks for a photo anew each time, and shows none of a tree that is out of sight" do
    enter orla
    photo = Vestry::Deeds::KeepPhoto.call(tree(here), StringIO.new(Vips::Image.black(60, 40).write_to_buffer(".png")),
                                          by: "Orla Finch", today: World::TODAY)
    address = "/o/#{here.slug}/survey/photos/#{photo.id}/small"
    get address
    expect([last_response.status, last_response.headers["cache-control"]]).to eq [200, "private, no-cache"]
    get address, {}, "HTTP_IF_NONE_MATCH" => last_response.headers["etag"]
    expect(last_response.status).to eq 304
    key = Vestry::Records::ApiToken.issue(orla, "x")
    Vestry::Deeds::DecideLimb.call(limb(photo.tree), { role: "nurse" }, by: "Orla Finch", season: 2027)
    tables = %w[plans plan_limbs limbs photos]
    shown = -> { tables.map { |table| JSON.parse(get("/api/orchards/#{here.slug}/#{table}", {},
                                                     "HTTP_AUTHORIZATION" => "Bearer #{key}").body)["items"].size } }
    expect(shown.call).to eq [1, 1, 1, 1]
    Vestry::Deeds::Hide.call(photo.tree, by: "Orla Finch")
    expect([get(address).status, get("/o/#{here.slug}/plan/trees/#{photo.tree_id}").status]).to eq [404, 404]
    expect(shown.call).to eq [0, 0, 0, 0]
  end

  it "serves no calendar of an orchard that was taken back" do
    secret = "s" * 20
    Vestry::Records::CalendarKey.create(orchard_id: here.id, account_id: orla.id,
                                        digest: Vestry::Records::CalendarKey.digest(secret))
    expect(get("/calendar/#{secret}.ics").status).to eq 200
    here.update(hidden_at: Time.now.utc)
    expect(get("/calendar/#{secret}.ics").status).to eq 404
  end

  it "counts what is dear to make by who asks, wherever from" do
    enter orla
    # The next minute as it begins: counts are kept by the minute, and must not run into another.
    allow(Time).to receive(:now).and_return(Time.at((Time.now.to_i / 60 * 60) + 60))
    statuses = Array.new(Vestry::Web::Throttle::DEAR_READS + 1) do |i|
      get("/o/#{here.slug}/find?q=x", {}, "REMOTE_ADDR" => "192.0.2.#{i % 200}").status
    end
    expect([statuses.first, statuses.last]).to eq [200, 429]
    expect(get("/o/#{here.slug}/survey").status).to eq 200
  end
end
