# frozen_string_literal: true

require "rack/test"

RSpec.describe "Signing in" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(name: "Trial Hill") }
  let!(:orla) { person("Orla Finch", steward: here) }

  def home = get("/o/#{here.slug}/survey").status
  def letter = Vestry::DB[:letters].order(:id).last

  it "comes back to the page that was wanted" do
    get "/o/#{here.slug}/tend"
    enter orla
    expect(last_response.headers["location"]).to end_with "/o/#{here.slug}/tend"
  end

  it "takes the address in any case, refuses a wrong password, and says which field" do
    enter orla, "wrong password"
    expect(last_response.status).to eq 401
    expect(last_response.body).to include("is not the password")
    get "/sign-in"
    post "/sign-in", login: "  ORLA.finch@Trial.example ", password: World::PASSWORD, authenticity_token: token
    expect(home).to eq 200
  end

  it "locks after repeated failures, and unlocks by letter" do
    9.times { Vestry::DB[:door_counts].delete && enter(orla, "wrong password") }
    expect(last_response.body).to include("locked")
    Vestry::DB[:door_counts].delete
    enter orla
    expect(home).to eq 302
    get "/sign-in"
    post "/locked", login: orla.email, authenticity_token: token
    get letter[:body][%r{/unlock\?\S+}]
    get last_response.headers["location"] if last_response.redirect?
    post "/unlock", authenticity_token: token
    Vestry::DB[:door_counts].delete
    enter orla
    expect(home).to eq 200
  end

  it "slows down whoever knocks too often" do
    statuses = Array.new(13) { enter(orla, "wrong password") && last_response.status }
    expect(statuses.last).to eq 429
  end

  it "sends a letter for a forgotten password, whose link works once" do
    get "/forgotten"
    post "/forgotten", login: orla.email, authenticity_token: token
    link = letter[:body][%r{/new-password\?\S+}]
    get link
    get last_response.headers["location"] if last_response.redirect?
    post "/new-password", password: "another long password", "password-confirm": "another long password", authenticity_token: token
    enter orla, "another long password"
    expect(home).to eq 200
    clear_cookies
    get link
    get last_response.headers["location"] if last_response.redirect?
    expect(last_response.body).not_to include("password-confirm")
  end

  it "shows letters about the orchard to its stewards, and a letter for a new password to nobody" do
    get "/forgotten"
    post "/forgotten", login: orla.email, authenticity_token: token
    Vestry::Outside::Outbox.post(Vestry::Outside::Outbox::Letter.new(address: orla.email, subject: "what is due", body: "A1", orchard: here))
    Vestry::Outside::Outbox.post(Vestry::Outside::Outbox::Letter.new(address: orla.email, subject: "from elsewhere", body: "B1", orchard: orchard(name: "Other")))
    enter orla
    get "/o/#{here.slug}/people/outbox"
    expect(last_response.status).to eq 200
    expect(last_response.body).to include("what is due")
    expect(last_response.body).not_to match(/new-password\?key|from elsewhere/)
    expect(Vestry::Outside::Outbox.personal(5).map { |letter| letter[:subject] }).to eq ["a new password"]
  end

  it "names its own address in letters, whatever host a request claims, and sends none where it has none" do
    get "/forgotten", {}, "HTTP_HOST" => "evil.example"
    post "/forgotten", { login: orla.email, authenticity_token: token }, "HTTP_HOST" => "evil.example"
    expect(letter[:body]).to include("https://orchard.example/new-password?key=")
    expect(letter[:body]).not_to include("evil")
    allow(Vestry::Settings).to receive(:address).and_return(nil)
    Vestry::DB[:account_password_reset_keys].delete
    get "/forgotten"
    post "/forgotten", login: orla.email, authenticity_token: token
    follow_redirect!
    expect(last_response.body).to include("No letter was sent")
    expect(Vestry::DB[:letters].count).to eq 1
  end

  it "says that one is signed out, and that a letter is on its way" do
    get "/forgotten"
    post "/forgotten", login: orla.email, authenticity_token: token
    follow_redirect!
    expect(last_response.body).to include("A letter is on its way")
    enter orla
    get "/you"
    post "/sign-out", authenticity_token: token
    follow_redirect!
    expect(last_response.body).to include("Signed out")
    get "/sign-in"
    expect(last_response.body).not_to include("Signed out")
  end

  it "changes a password only with the old one" do
    enter orla
    get "/password"
    post "/password", password: "wrong", "new-password": "another long password", "password-confirm": "another long password", authenticity_token: token
    expect(last_response.status).to eq 401
    post "/password", password: World::PASSWORD, "new-password": "short", "password-confirm": "short", authenticity_token: token
    expect(last_response.status).to eq 422
    post "/password", password: World::PASSWORD, "new-password": "another long password", "password-confirm": "another long password", authenticity_token: token
    clear_cookies
    enter orla, "another long password"
    expect(home).to eq 200
  end

  it "stays signed in on a device when asked to" do
    enter orla, World::PASSWORD, remember: "yes"
    kept = rack_mock_session.cookie_jar["_remember"]
    clear_cookies
    expect(home).to eq 302
    set_cookie "_remember=#{kept}"
    expect(home).to eq 200
  end

  it "ends the sessions a person has elsewhere" do
    enter orla
    stolen = rack_mock_session.cookie_jar["vestry"]
    clear_cookies
    enter orla
    get "/you"
    post "/you/sessions", authenticity_token: token
    expect(last_response.status).to eq 302
    expect(home).to eq 200
    clear_cookies
    set_cookie "vestry=#{stolen}"
    expect(home).to eq 302
  end

  it "sends cookies by TLS alone where TLS serves, and keeps them from scripts" do
    get "/sign-in", {}, "HTTPS" => "on"
    expect(Array(last_response.headers["set-cookie"]).join("\n")).to match(/httponly/i).and match(/; secure/i)
    expect(last_response.headers["strict-transport-security"]).to include("max-age")
  end
end

RSpec.describe "Belonging" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(name: "Trial Hill") }
  let!(:orla) { person("Orla Finch", steward: here) }

  def invite(role = "grafter") = Vestry::Deeds::Invite.call(here, role: role, name: "Tam", by: "Orla Finch")

  def join(link, **typed)
    get "/join/#{link}"
    post "/join/#{link}", { name: "Tam Reddaway", email: "tam@trial.example", password: World::PASSWORD, again: World::PASSWORD, authenticity_token: token }.merge(typed)
  end

  it "lets one person in by a link, once" do
    link = invite
    join link
    tam = Vestry::Records::Account.first(email: "tam@trial.example")
    expect(tam.role_in(here)).to eq "grafter"
    get "/sign-in"
    post "/join/#{link}", name: "Else", email: "else@trial.example", password: World::PASSWORD, again: World::PASSWORD, authenticity_token: token
    expect(last_response.status).to eq 410
    expect(Vestry::Records::Account.first(email: "else@trial.example")).to be_nil
  end

  it "keeps what was typed when joining cannot be done, without the password" do
    join invite, password: "short", again: "short"
    expect(last_response.status).to eq 422
    expect(last_response.body).to include('value="Tam Reddaway"', "is too short: 10 or more")
    expect(last_response.body).not_to include('value="short"')
  end

  it "refuses a link that was revoked or is too old" do
    old = Vestry::Deeds::Invite.call(here, role: "viewer", name: "", by: "Orla", now: Time.now.utc - 20 * 86_400)
    get "/join/#{old}"
    expect(last_response.body).to include("too old")
  end

  it "gives someone who is signed in the new role, and never takes a greater one away" do
    enter orla
    link = invite("viewer")
    get "/join/#{link}"
    post "/join/#{link}", authenticity_token: token
    expect(orla.role_in(here)).to eq "steward"
  end

  it "keeps a last steward" do
    enter orla
    get "/o/#{here.slug}/people"
    post "/o/#{here.slug}/people/leave", authenticity_token: token
    expect([last_response.status, orla.role_in(here)]).to eq [422, "steward"]
    expect(last_response.body).to include("Orla Finch is the last steward")
    person("Tam Reddaway", steward: here)
    post "/o/#{here.slug}/people/leave", authenticity_token: token
    expect(orla.role_in(here)).to be_nil
  end

  it "keeps one of two stewards who leave at the same moment" do
    person("Tam Reddaway", steward: here)
    members = Vestry::Records::Membership.where(orchard_id: here.id).all
    members.map { |each| Thread.new { Vestry::Deeds::ChangeMember.call(here, each.id, nil, by: "x") rescue nil } }.each(&:join)
    expect(Vestry::Records::Membership.in_sight.where(orchard_id: here.id).count).to eq 1
  end
end
