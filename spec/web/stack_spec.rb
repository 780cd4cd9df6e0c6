# frozen_string_literal: true

require "rack/test"

RSpec.describe "The web around every page" do
  include Rack::Test::Methods

  let!(:here) { demo }
  let(:app) { Vestry::Web::Stack.build }
  let(:one) { here.grafts.first }

  before { enter person(steward: here) }

  it "answers every page of the path, with a policy that allows no inline script or style" do
    tree = one.limb.tree_id
    ["survey", "survey/trees/#{tree}", "survey/trees/#{tree}?limb=#{one.limb_id}&from=45", "plan",
     "plan/trees/#{tree}?limb=#{one.limb_id}", "wood", "slip",
     "graft", "graft/limbs/#{one.limb_id}", "tend", "tend/grafts/#{one.id}", "tally",
     "tally/grafts/#{one.id}"].each do |address|
      get "/o/maunder-hill/#{address}"
      expect([address, last_response.status]).to eq [address, 200]
      expect(last_response.body).not_to match(/<script(?![^>]*\ssrc="\/)|\sstyle=|\son(click|load|change)=/)
      expect(last_response.headers["content-security-policy"]).to include("default-src 'none'", "script-src 'self'")
      expect(last_response.headers["content-security-policy"]).not_to include("unsafe")
    end
  end

  it "draws the tree from all eight sides" do
    drawn = (0..7).map do |turn|
      get("/o/maunder-hill/survey/trees/#{one.limb.tree_id}?from=#{turn * 45}").body[/class="trunk".*?<\/svg>/m]
    end
    expect(drawn.uniq.size).to eq 8
  end

  it "refuses a write without the form's token" do
    post "/o/maunder-hill/plan/limbs/#{one.limb_id}", role: "lift"
    expect(last_response.status).to eq 403
  end

  it "says so when there is nothing at an address" do
    ["/o/nowhere/survey", "/o/maunder-hill/nonsense", "/o/maunder-hill/survey/trees/99999", "/nothing",
     "/o/maunder-hill/tend/grafts/abc"].each do |address|
      get address
      expect([address, last_response.status]).to eq [address, 404]
    end
  end

  it "has the demo's own day and its caliper nowhere else" do
    allow(Vestry::Settings).to receive_messages(demo?: false, test?: false)
    expect(send_to("/demo/day", step: "1")).to eq 404
    get "/standins/caliper"
    expect([last_response.status, last_response.body]).to match [404, /Nothing is kept at this address/]
  end

  it "says so where a form cannot be taken apart" do
    post "/sign-in", "login=%", "CONTENT_TYPE" => "application/x-www-form-urlencoded"
    expect([last_response.status, last_response.body])
      .to match [400, include("what was sent with it, cannot be read")]
  end

  it "steps the demo's day by as many as are pressed" do
    allow(Vestry::Settings).to receive(:demo?).and_return(true)
    from = Vestry::Outside::Clock.today("Europe/London")
    { "10" => 10, "-1" => -1, "9999" => 366, "-999" => -366 }.each do |step, days|
      clear_cookies
      enter person("Stepping #{step.delete('-')}", steward: here)
      send_to("/demo/day", step: step)
      expect([step, last_response.status, last_response["set-cookie"].to_s[/demo_day=([0-9-]+)/, 1]])
        .to eq [step, 302, (from + days).iso8601]
    end
  end

  it "finds nothing of another orchard's" do
    other = orchard
    Vestry::Records::Membership.create(orchard_id: other.id, account_id: Vestry::Records::Account.first.id,
                                       role: "steward")
    get "/o/#{other.slug}/survey/trees/#{one.limb.tree_id}"
    expect(last_response.status).to eq 404
  end

  it "reads a typed measure for the echo" do
    get "/measure", text: "8¾\"", units: "imperial"
    expect(last_response.body).to include("8 3/4 in", "222 mm")
    get "/measure", text: "<b>"
    expect([last_response.status, last_response.content_type]).to match [422, %r{text/plain}]
  end

  it "escapes what people typed" do
    one.limb.update(damage: "<img src=x onerror=alert(1)>")
    get "/o/maunder-hill/survey/trees/#{one.limb.tree_id}?limb=#{one.limb_id}"
    expect(last_response.body).to include("&lt;img src=x").and(satisfy { |body| !body.include?("<img src=x") })
  end
end
