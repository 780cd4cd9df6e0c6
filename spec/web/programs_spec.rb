# frozen_string_literal: true

require "rack/test"

# What a program's tools send, as they send it.
RSpec.describe "Programs and their tools" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let!(:key) { Vestry::Records::ApiToken.issue(person("Hanna Sorrel", steward: here), "a script") }
  let!(:made) { graft(limb(tree(here))) }
  let(:base) { "/api/orchards/#{here.slug}" }

  before { header "Authorization", "Bearer #{key}" }

  def status = last_response.status
  def told = JSON.parse(last_response.body)

  it "takes JSON as curl -d sends it, called a form" do
    post "#{base}/grafts/#{made.id}/visits", '{"seen_on": "2026-05-18", "buds": "swelling"}',
         "CONTENT_TYPE" => "application/x-www-form-urlencoded"
    expect([status, told["buds"]]).to eq [201, "swelling"]
    post "#{base}/grafts/#{made.id}/visits", "seen_on=%ZZ&a[]=1&a[b]=2",
         "CONTENT_TYPE" => "application/x-www-form-urlencoded"
    expect([status, told["title"]]).to eq [400, "the body is not JSON"]
  end

  it "takes POST and DELETE without a body, with no body to read at all" do
    bodyless = ->(method, path) { app.call(Rack::MockRequest.env_for("#{base}/#{path}", method: method,
                                                                     "HTTP_AUTHORIZATION" => "Bearer #{key}")
                                                                       .tap { |env| env.delete("rack.input") }) }
    expect(bodyless.call("POST", "grafts/#{made.id}/visits").first).to eq 422
    expect(bodyless.call("DELETE", "hidden/grafts/#{made.id}").first.then { |code| [200, 404, 405].include?(code) })
      .to be true
    expect(bodyless.call("DELETE", "grafts/#{made.id}").first).to be_between(200, 405)
  end

  it "says how a key is sent, and which methods an address has" do
    header "Authorization", "Bearer nothing"
    get base
    expect([status, last_response.headers["www-authenticate"]]).to eq [401, 'Bearer realm="Vestry"']
    header "Authorization", "Bearer #{key}"
    put "#{base}/grafts/#{made.id}/visits", "{}"
    expect([status, last_response.headers["allow"].to_s.include?("POST"), last_response.media_type])
      .to eq [405, true, "application/problem+json"]
    get "/api/nothing/at/all/here/whatever"
    expect(status).to eq 404
  end

  it "counts every way of writing against the limit" do
    # The next minute as it begins: counts are kept by the minute, and must not run into another.
    allow(Time).to receive(:now).and_return(Time.at((Time.now.to_i / 60 * 60) + 60))
    stub_const("Vestry::Web::Throttle::WRITES", 3)
    fresh = Vestry::Web::Stack.build
    ask = ->(method) { fresh.call(Rack::MockRequest.env_for("#{base}/rules/nothing", method: method,
                                                            "HTTP_AUTHORIZATION" => "Bearer #{key}",
                                                            "REMOTE_ADDR" => "10.9.8.7")).first }
    codes = %w[DELETE PUT DELETE PUT DELETE].map { |method| ask.call(method) }
    expect(codes.last(2)).to eq [429, 429]
    expect(codes.first(3)).not_to include(429)
  ensure
    Vestry::Web::Throttle.fit
  end

  it "does a POST that comes twice under one Idempotency-Key once, and answers it alike" do
    send = lambda do |body, key|
      header "Idempotency-Key", key
      post "#{base}/varieties", JSON.generate(body)
      [status, told]
    end
    first = send.call({ name: "Long Meadow", species: "apple" }, "a-1")
    expect(first.first).to eq 201
    expect(send.call({ name: "Long Meadow", species: "apple" }, "a-1")).to eq first
    expect(send.call({ name: "Short Meadow", species: "apple" }, "a-1").first).to eq 422
    expect(send.call({ name: "", species: "apple" }, "a-2").first).to eq 422
    expect(send.call({ name: "Mended", species: "apple" }, "a-2").first).to eq 201
    expect(send.call({ name: "x", species: "apple" }, "y" * 201).first).to eq 400
    expect(Vestry::Records::Variety.where(orchard_id: here.id, name: "Long Meadow").count).to eq 1
  end

  it "lets two that come at once under one key wait for each other" do
    account = Vestry::Records::Account.first(name: "Hanna Sorrel")
    begun, go = Queue.new, Queue.new
    first = Thread.new do
      Vestry::Records::RepeatedRequest.answer(account, "k", [1]) { begun << true; go.pop; ["one", 201] }
    end
    begun.pop
    second = Thread.new { Vestry::Records::RepeatedRequest.answer(account, "k", [1]) { ["two", 201] } }
    until_waiting
    go << true
    expect([first.value, second.value]).to eq [["one", 201], ["one", 201]]
  end

  it "refuses a field of a reckoning that nobody asked for" do
    post "/api/reckon/section", JSON.generate(girth_mm: 220, bark: 3)
    expect([status, told["errors"].keys]).to eq [422, ["bark"]]
  end
end
