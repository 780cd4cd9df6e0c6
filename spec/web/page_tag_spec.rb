# frozen_string_literal: true

require "rack/test"

RSpec.describe "A page that a browser has already" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(name: "Trial Hill", slug: "trial-hill") }
  let!(:standing) { tree(here) }
  let!(:orla) { person("Orla Finch", steward: here) }

  def page(path = "survey", **more)
    get "/o/trial-hill/#{path}", {}, more
    last_response
  end
  def again(tag, path = "survey")
    page(path, "HTTP_IF_NONE_MATCH" => tag).then { |answer| [answer.status, answer.body.empty?] }
  end

  # The second look: by the first the session has got its token.
  def tag(path = "survey")
    2.times { page(path) }
    last_response["etag"]
  end

  before { enter orla }

  it "is not made again while nothing that it follows from was written" do
    tags = %W[survey survey/trees/#{standing.id} plan wood slip graft tend tally repair varieties history find?q=zzz]
      .to_h { |path| [path, tag(path)] }
    tags.each { |path, each| expect([path, *again(each, path)]).to eq [path, 304, true] }
    expect(tags.values.uniq.size).to eq tags.size
    expect(last_response.headers.values_at("cache-control", "x-frame-options")).to eq ["private, no-cache", "DENY"]
  end

  { "a limb is measured" => ->(it) { it.limb(it.standing) },
    "weather comes in" => ->(it) { it.weather_comes },
    "the orchard has another name" => ->(it) { it.here.update(name: "Elsewhen", version: 2) },
    "their role is another" => ->(it) { it.viewer },
    "they belong to another orchard too" => ->(it) { it.belong_elsewhere },
    "a form of theirs was answered" => ->(it) { it.answered } }.each do |what, change|
    it "is made again when #{what}" do
      was = tag
      change.call(self)
      expect(again(was)).to eq [200, false]
    end
  end

  def weather_comes = Vestry::DB[:weather_days].insert(orchard_id: here.id, day: World::TODAY, min_c: 4, max_c: 9)
  def viewer = Vestry::Records::Membership.where(account_id: orla.id).update(role: "viewer")
  def answered = Vestry::Records::RepeatedRequest.answer(orla, "form x", "/") { ["/", 302] }
  def belong_elsewhere
    Vestry::Records::Membership.create(orchard_id: orchard(name: "Over There").id, account_id: orla.id, role: "viewer")
  end

  it "is another for another person, and none for whoever may not see it" do
    was = tag
    clear_cookies
    tam = person("Tam Rook", steward: here)
    enter tam
    expect(again(was)).to eq [200, false]
    Vestry::Records::Membership.where(account_id: tam.id).update(hidden_at: Time.now.utc)
    expect(again(was).first).to eq 404
  end

  it "is the same from one process to another" do
    was = tag
    other = Rack::MockRequest.new(Vestry::Web::Stack.build)
    cookies = rack_mock_session.cookie_jar.for(URI("http://example.org/"))
    answer = other.get("/o/trial-hill/survey", "HTTP_COOKIE" => cookies, "HTTP_HOST" => "example.org",
                                               "HTTP_IF_NONE_MATCH" => was)
    expect(answer.status).to eq 304
  end

  it "carries no tag with a word for its reader, on pages of files, people and settings, and where it is missing" do
    set_cookie "notice=Done."
    expect(page.headers.values_at("etag", "cache-control")).to eq [nil, "no-store"]
    %w[files people settings survey/trees/999999].each do |path|
      expect([path, *page(path).headers.values_at("etag", "cache-control")]).to eq [path, nil, "no-store"]
    end
  end

  it "has the same form token from one look to the next, which a form is taken with" do
    page
    first = page.body
    expect(page.body[/authenticity_token" value="([^"]+)/, 1]).to eq first[/authenticity_token" value="([^"]+)/, 1]
    post "/o/trial-hill/survey/trees", authenticity_token: "wrong"
    expect(last_response.status).to eq 403
  end
end
