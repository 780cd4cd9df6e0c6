# frozen_string_literal: true

require "rack/test"
require "zlib"

RSpec.describe "What travels" do
  include Rack::Test::Methods
  let(:app) { Vestry::Web::Stack.build }

  def ask(address, taking: "gzip") = get(address, {}, { "HTTP_ACCEPT_ENCODING" => taking })
  def unpacked = Zlib::GzipReader.new(StringIO.new(last_response.body)).read

  it "sends style and scripts from a smaller copy, for good under the address of their content" do
    ask "/vestry.css"
    expect(last_response.headers.values_at("content-encoding", "cache-control", "vary"))
      .to eq ["gzip", "public, max-age=3600", "accept-encoding"]
    whole = unpacked
    ask "/vestry.css", taking: "identity"
    expect(last_response.headers["content-encoding"]).to be_nil
    expect(last_response.body.b == whole.b).to be true
    address = Vestry::Web::Stack::Assets.address("vestry.css")
    expect(address).to match(%r{\A/vestry\.css\?v=\h{12}\z})
    ask address
    expect(last_response.headers["cache-control"]).to include "immutable"
    ask "/sw.js?v=1"
    expect(last_response.headers["cache-control"]).to eq "no-cache"
  end

  it "asks whoever lists pages to list none" do
    get "/robots.txt"
    expect([last_response.status, last_response.body]).to eq [200, "User-agent: *\nDisallow: /\n"]
  end

  it "compresses a page, but none whose address holds words that a stranger could choose" do
    enter person(steward: demo)
    ask "/o/maunder-hill/survey"
    expect(last_response.headers["content-encoding"]).to eq "gzip"
    expect(unpacked).to include "Maunder Hill"
    expect(last_response.body.bytesize).to be < unpacked.bytesize / 3
    ask "/o/maunder-hill/survey?x=4.5&y=-2&w=80"
    expect(last_response.headers["content-encoding"]).to eq "gzip"
    ["find?q=Evensong", "survey?state=open", "survey?x=1&q=%41%42", "find?q=1%2B"].each do |path|
      ask "/o/maunder-hill/#{path}"
      expect([path, last_response.headers["content-encoding"]]).to eq [path, nil]
    end
  end

  it "knows a page that still stands, compressed or not" do
    enter person(steward: demo)
    ask "/o/maunder-hill/survey"
    tag = last_response.headers["etag"]
    get "/o/maunder-hill/survey", {}, { "HTTP_ACCEPT_ENCODING" => "gzip", "HTTP_IF_NONE_MATCH" => tag }
    expect([last_response.status, last_response.body]).to eq [304, ""]
  end
end
