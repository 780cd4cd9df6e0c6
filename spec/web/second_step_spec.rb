# frozen_string_literal: true

require "rack/test"
require "rotp"

RSpec.describe "A second step at sign-in" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(name: "Trial Hill") }
  let!(:orla) { person("Orla Finch", steward: here) }

  def page = last_response.body
  def home = get("/o/#{here.slug}/survey").status
  def letters = Vestry::DB[:letters].order(:id).select_map(:subject)
  def log = Vestry::DB[:door_log].order(:id).select_map(:what)

  # Adds a code from an app, and says its secret.
  def add_code
    get "/code-setup"
    fields = Nokogiri::HTML(page).css("form[action='/code-setup'] input[type=hidden]").to_h do |each|
      [each["name"], each["value"]]
    end
    @secret = fields.fetch("otp_secret")
    post "/code-setup", fields.merge("otp" => ROTP::TOTP.new(@secret).now)
    # The same code opens once; as if it had been typed a while ago.
    Vestry::DB[:account_otp_keys].update(last_use: Sequel.lit("last_use - interval '10 minutes'"))
    @secret
  end

  before { enter orla }

  it "shows a square code that holds the secret, and takes no code but the one it gives" do
    get "/code-setup"
    expect(page).to include("<svg", "Scan this")
    fields = Nokogiri::HTML(page).css("form[action='/code-setup'] input[type=hidden]").to_h do |each|
      [each["name"], each["value"]]
    end
    post "/code-setup", fields.merge("otp" => "000000")
    expect([last_response.status, Vestry::DB[:account_otp_keys].count]).to eq [401, 0]
    expect(page).to include("is not the code it shows now")
    add_code
    expect(last_response.headers["location"]).to eq "/recovery-codes"
    expect(letters.last).to include("your second step was changed")
  end

  it "opens nothing to the password alone, and all with the code" do
    secret = add_code
    clear_cookies
    enter orla
    expect([get("/o/#{here.slug}/survey").status, last_response.headers["location"]]).to eq [302, "/second-step-now"]
    expect([get("/you").status, get("/measure?text=5").status]).to eq [302, 302]
    get "/code"
    post "/code", otp: "123456", authenticity_token: token
    expect([last_response.status, home]).to eq [401, 302]
    get "/code"
    post "/code", otp: ROTP::TOTP.new(secret).now, authenticity_token: token
    expect(home).to eq 200
  end

  it "opens once with each recovery code" do
    add_code
    get "/recovery-codes"
    post "/recovery-codes", authenticity_token: token
    code = Nokogiri::HTML(page).css(".codes code").first.text
    2.times do |turn|
      clear_cookies
      enter orla
      get "/recovery"
      post "/recovery", "recovery-code": code, authenticity_token: token
      expect(home).to eq(turn.zero? ? 200 : 302)
    end
  end

  it "is removed with the password, and then the password alone opens" do
    add_code
    allow(Time).to receive(:now).and_return(Time.at(Time.now.to_i + 700))
    get "/code-off"
    post "/code-off", password: "wrong", authenticity_token: token
    expect(Vestry::DB[:account_otp_keys].count).to eq 1
    post "/code-off", password: World::PASSWORD, authenticity_token: token
    expect(Vestry::DB[:account_otp_keys].count).to eq 0
    expect(log).to include("second-factor-on", "second-factor-off")
  end

  it "ends what else is signed in when it is added" do
    elsewhere = Rack::Utils.escape(rack_mock_session.cookie_jar["vestry"])
    clear_cookies
    enter orla
    add_code
    expect(home).to eq 200
    clear_cookies
    set_cookie "vestry=#{elsewhere}"
    expect(home).to eq 302
  end

  describe "asked of everyone by a steward" do
    let!(:tam) { person("Tam Reddaway", grafter: here) }
    let(:key) { Vestry::Records::ApiToken.issue(tam, "a script") }

    def ask(wanted)
      get "/o/#{here.slug}/people"
      post "/o/#{here.slug}/people/second-step", wanted: wanted, authenticity_token: token
    end

    it "is asked by one who has it" do
      ask("yes")
      expect([last_response.headers["location"], here.reload.second_factor]).to eq ["/second-step", false]
      add_code
      clear_cookies
      enter orla
      get "/code"
      post "/code", otp: ROTP::TOTP.new(@secret).now, authenticity_token: token
      ask("yes")
      expect(here.reload.second_factor).to be true
      ask("no")
      expect(here.reload.second_factor).to be false
    end

    it "is wanted of every member and of their programs" do
      here.update(second_factor: true)
      clear_cookies
      enter tam
      expect([home, last_response.headers["location"]]).to eq [302, "/second-step"]
      # No script reads what the next page says.
      expect(last_response.headers["set-cookie"].to_s).to match(/notice=Trial[^\n]*httponly/i)
      get "/api/orchards/#{here.slug}", {}, "HTTP_AUTHORIZATION" => "Bearer #{key}"
      expect(last_response.status).to eq 403
      add_code
      expect(home).to eq 200
      get "/api/orchards/#{here.slug}", {}, "HTTP_AUTHORIZATION" => "Bearer #{key}"
      expect(last_response.status).to eq 200
    end
  end
end

RSpec.describe "What decides who comes in" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(name: "Trial Hill") }
  let!(:orla) { person("Orla Finch", steward: here) }
  let!(:tam) { person("Tam Reddaway", grafter: here) }
  let(:member) { Vestry::Records::Membership.first(account_id: tam.id) }

  def page = last_response.body
  def later(seconds = 700) = allow(Time).to(receive(:now).and_return(Time.at(Time.now.to_i + seconds)))

  def send_to(path, **fields)
    get "/you"
    post path, fields.merge(authenticity_token: token)
    [last_response.status, last_response.headers["location"]]
  end

  before { enter orla }

  it "asks for the password again where it was not typed lately, and then leads on" do
    later
    asked = [302, "/password-again"]
    expect(send_to("/you/tokens", name: "x", scope: "read", days: 30)).to eq asked
    expect(send_to("/o/#{here.slug}/people/members/#{member.id}", role: "steward")).to eq asked
    expect(send_to("/o/#{here.slug}/people/invites", role: "steward", name: "x")).to eq asked
    expect(send_to("/o/#{here.slug}/people/second-step", wanted: "yes")).to eq asked
    expect(send_to("/o/#{here.slug}/files/orchard")).to eq asked
    expect([Vestry::DB[:api_tokens].count, Vestry::DB[:invites].count, Vestry::DB[:exports].count, member.reload.role])
      .to eq [0, 0, 0, "grafter"]
    get "/password-again"
    post "/password-again", password: "wrong", authenticity_token: token
    expect(last_response.status).to eq 401
    post "/password-again", password: World::PASSWORD, authenticity_token: token
    expect(last_response.headers["location"]).to eq "/o/#{here.slug}/files"
    expect(send_to("/o/#{here.slug}/people/members/#{member.id}", role: "viewer").first).to eq 302
    expect(member.reload.role).to eq "viewer"
  end

  it "stands in the door's log, which stewards read" do
    send_to("/o/#{here.slug}/people/members/#{member.id}", role: "viewer")
    send_to("/you/tokens", name: "a script", scope: "read", days: 30)
    clear_cookies
    Vestry::DB[:door_counts].delete
    enter tam, "wrong password"
    enter tam
    expect(send_to("/o/#{here.slug}/survey/trees", row: "A")).to match [403, nil]
    clear_cookies
    enter orla
    get "/o/#{here.slug}/people/door"
    ["Tam Reddaway: viewer", "was refused at sign-in", "made a key for a program: a script",
     "asked for what their role may not do"].each do |words|
      expect(page).to include(words)
    end
    other = orchard(name: "Elsewhere")
    person("Sue Steward", steward: other).then { |sue| clear_cookies && enter(sue) }
    get "/o/#{other.slug}/people/door"
    expect(page).not_to include("Tam Reddaway")
  end

  describe "by a key" do
    def key(**facts) = Vestry::Records::ApiToken.issue(orla, "a script", **facts)

    def ask(key, verb, path, body = nil)
      public_send(verb, "/api#{path}", body && JSON.generate(body), "HTTP_AUTHORIZATION" => "Bearer #{key}")
      last_response.status
    end

    it "reads and does not write, where it is for reading" do
      reading = key(scope: "read")
      expect(ask(reading, :get, "/orchards/#{here.slug}/trees")).to eq 200
      expect(ask(reading, :post, "/orchards/#{here.slug}/varieties", { name: "New One", species: "apple" })).to eq 403
      expect(ask(key, :post, "/orchards/#{here.slug}/varieties", { name: "New One", species: "apple" })).to eq 201
    end

    it "opens one orchard alone, where it is for one" do
      other = orchard(name: "Other")
      Vestry::Records::Membership.create(orchard_id: other.id, account_id: orla.id, role: "steward")
      one = key(orchard: other)
      expect([ask(one, :get, "/orchards/#{here.slug}"), ask(one, :get, "/orchards/#{other.slug}")]).to eq [404, 200]
      ask(one, :get, "/orchards")
      expect(JSON.parse(page)["items"].map { |each| each["slug"] }).to eq [other.slug]
    end

    it "ends with its time" do
      short = key(days: 30)
      expect(ask(short, :get, "/orchards")).to eq 200
      Vestry::DB[:api_tokens].update(expires_at: Time.now.utc - 1)
      expect(ask(short, :get, "/orchards")).to eq 401
    end

    it "is told alike from none: every address answers 401 without one" do
      paths = ["/orchards", "/orchards/#{here.slug}", "/orchards/nowhere", "/nothing/at/all", "/reckon",
               "/reckon/section"]
      expect(paths.map { |path| get("/api#{path}").status }.uniq).to eq [401]
      expect(paths.map { |path| post("/api#{path}").status }.uniq).to eq [401]
    end
  end

  it "offers to revoke every key once the password is changed" do
    3.times { |i| Vestry::Records::ApiToken.issue(orla, "script #{i}") }
    get "/password"
    post "/password", "new-password": "another long password", "password-confirm": "another long password",
                      authenticity_token: token
    follow_redirect!
    expect(page).to include("Keys for programs still open", "Revoke all of them")
    expect(send_to("/you/tokens/revoke-all")).to eq [302, "/you"]
    expect(Vestry::Records::ApiToken.of(orla)).to eq []
  end

  it "changes one's address by a letter to the new one, and tells nobody whether another has it" do
    send_to("/address", login: tam.email)
    taken = [last_response.status, last_response.headers["location"],
             Array(last_response.headers["set-cookie"]).join[/notice=[^;]*/]]
    send_to("/address", login: "orla@elsewhere.example")
    expect([last_response.status, last_response.headers["location"],
            Array(last_response.headers["set-cookie"]).join[/notice=[^;]*/]]).to eq taken
    link = Vestry::DB[:letters].where(address: "orla@elsewhere.example").get(:body)[%r{/new-address\?\S+}]
    expect(orla.reload.email).to eq "orla.finch@trial.example"
    get link
    get last_response.headers["location"] if last_response.redirect?
    post "/new-address", authenticity_token: token
    expect(orla.reload.email).to eq "orla@elsewhere.example"
    expect(tam.reload.email).to eq "tam.reddaway@trial.example"
  end

  it "closes an account: nothing opens with it, and what it recorded stays" do
    send_to("/close-account")
    expect(orla.reload.closed_at).to be_nil
    expect(page).not_to include("closed for good")
    second = person("Sue Steward", steward: here)
    key = Vestry::Records::ApiToken.issue(orla, "a script")
    Vestry::Deeds::KeepVariety.call(here, { name: "New One", species: "apple" }, by: "Orla Finch")
    send_to("/close-account")
    expect(orla.reload.values.values_at(:email, :password_hash)).to eq ["closed-#{orla.id}@closed.invalid", nil]
    expect([Vestry::Records::ApiToken.good(key), orla.role_in(here), second.role_in(here)]).to eq [nil, nil, "steward"]
    clear_cookies
    Vestry::DB[:door_counts].delete
    get "/sign-in"
    post "/sign-in", login: "orla.finch@trial.example", password: World::PASSWORD, authenticity_token: token
    expect(last_response.status).to eq 401
    expect(Vestry::DB[:history].where(orchard_id: here.id, table_name: "varieties").select_map(:who))
      .to eq ["Orla Finch"]
  end
end
