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

  it "takes the address in any case, and refuses a wrong password" do
    enter orla, "wrong password"
    expect(last_response.status).to eq 401
    get "/sign-in"
    post "/sign-in", login: "  ORLA.finch@Trial.example ", password: World::PASSWORD, authenticity_token: token
    expect(home).to eq 200
  end

  it "takes the form that is shown where a session was found over by several requests at once" do
    enter orla
    home
    opened = rack_mock_session.cookie_jar["vestry"]
    Vestry::DB[:account_active_session_keys].delete
    get "/o/#{here.slug}/survey"
    get "/sign-in"
    shown = token
    set_cookie "vestry=#{Rack::Utils.escape(opened)}"
    expect(get("/token").status).to eq 302
    post "/sign-in", login: orla.email, password: World::PASSWORD, authenticity_token: shown
    expect(home).to eq 200
  end

  it "says of a form from before that it was not kept, and what to do" do
    enter orla
    get "/you"
    old = token
    post "/sign-out", authenticity_token: old
    enter orla
    post "/you/sessions", authenticity_token: old
    expect(last_response.status).to eq 403
    expect(last_response.body).to include "Go back: what you typed still stands there"
  end

  # Time goes by for whoever has to wait.
  def waited = Vestry::DB[:sign_in_tries].update(last_at: Sequel.lit("last_at - interval '20 minutes'"))

  def wrong(times = 1, **more)
    Array.new(times) do
      Vestry::DB[:door_counts].delete
      enter(orla, "wrong password", **more)
      last_response.status
    end
  end

  it "makes each wrong try wait longer than the one before, and says how long" do
    expect(wrong(7)).to eq [401, 401, 401, 401, 401, 429, 429]
    expect(last_response.body).to include("The next can be made in 1 s")
    expect(last_response.headers["retry-after"]).to eq "1"
    waited
    expect(wrong(2)).to eq [401, 429]
    expect(last_response.body).to include("The next can be made in 2 s")
  end

  it "counts two tries at the same moment one after the other" do
    address = "someone@trial.example"
    waits = Array.new(12) { Thread.new { Vestry::Records::SignInTries.take(address, "192.0.2.1") } }.map(&:value)
    expect(waits.count(0)).to eq Vestry::Records::SignInTries::FREE_HERE
  end

  it "lets a free try through that began before one that was counted sooner" do
    take = -> { Vestry::Records::SignInTries.take("someone@trial.example", "192.0.2.1") }
    waits = Vestry::DB.transaction do
      Vestry::DB.get(Sequel.lit("localtimestamp"))
      [Thread.new(&take).value, take.call]
    end
    expect(waits).to eq [0, 0]
  end

  it "shuts nobody out on a device they signed in on before, whatever is tried elsewhere" do
    enter orla
    device = rack_mock_session.cookie_jar["device"]
    clear_cookies
    # From ever other places, until the sign-in is locked.
    52.times { waited && wrong }
    expect(Vestry::DB[:account_lockouts].count).to eq 1
    Vestry::DB[:door_counts].delete
    enter orla
    expect(home).to eq 302
    clear_cookies
    set_cookie "device=#{device}"
    enter orla
    expect(home).to eq 200
  end

  it "counts no try that was right, from however many new devices, and every wrong one" do
    tries = Vestry::Records::SignInTries
    30.times do |number|
      expect(tries.take("tam@hill.example", "place #{number}")).to eq 0
      tries.clear("tam@hill.example", "place #{number}")
    end
    (1..20).each { |number| expect(tries.take("tam@hill.example", "elsewhere #{number}")).to eq 0 }
    expect(tries.take("tam@hill.example", "somewhere")).to be_positive
  end

  it "unlocks by letter, which signs nobody in" do
    52.times { waited && wrong }
    expect(letter[:subject]).to include("locked")
    Vestry::DB[:door_counts].delete
    get "/sign-in"
    post "/locked", login: orla.email, authenticity_token: token
    get letter[:body][%r{/unlock\?\S+}]
    get last_response.headers["location"] if last_response.redirect?
    post "/unlock", authenticity_token: token
    expect(home).to eq 302
    waited
    enter orla
    expect(home).to eq 200
  end

  it "answers alike whether or not anyone is known by an address" do
    asked = [orla.email, "nobody@trial.example"].map do |address|
      Vestry::DB[:door_counts].delete
      hashed = 0
      allow(BCrypt::Engine).to(receive(:hash_secret).and_wrap_original { |hash, *args| (hashed += 1) &&
        hash.call(*args) })
      %w[/sign-in /forgotten /locked].map do |path|
        clear_cookies
        get path.sub("locked", "sign-in")
        post path, login: address, password: "wrong password", authenticity_token: token
        told = [last_response.status, last_response.headers["location"],
                last_response.headers["set-cookie"].to_s[/notice=[^;]*/]]
        [told, last_response.body.gsub(address, "").gsub(/value="[^"]*"/, ""), hashed]
      end
    end
    expect(asked[0]).to eq asked[1]
    expect(asked[0].map(&:last)).to eq [1, 1, 1]
    # Nor does it tell when a letter went a moment ago.
    get "/sign-in"
    post "/forgotten", login: orla.email, authenticity_token: token
    follow_redirect!
    expect(last_response.body).to include("If someone is known by this address")
    expect(Vestry::DB[:letters].where(Sequel.like(:subject, "%new password")).count).to eq 1
  end

  it "sends a letter for a forgotten password, whose link works once" do
    get "/forgotten"
    post "/forgotten", login: orla.email, authenticity_token: token
    link = letter[:body][%r{/new-password\?\S+}]
    get link
    get last_response.headers["location"] if last_response.redirect?
    post "/new-password", password: "another long password", "password-confirm": "another long password",
                          authenticity_token: token
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
    Vestry::Outside::Outbox.post(Vestry::Outside::Outbox::Letter.new(address: orla.email, subject: "what is due",
                                                                     body: "A1", orchard: here))
    Vestry::Outside::Outbox.post(Vestry::Outside::Outbox::Letter.new(address: orla.email, subject: "from elsewhere",
                                                                     body: "B1", orchard: orchard(name: "Other")))
    enter orla
    get "/o/#{here.slug}/people/outbox"
    expect(last_response.status).to eq 200
    expect(last_response.body).to include("what is due")
    expect(last_response.body).not_to match(/new-password\?key|from elsewhere/)
    expect(Vestry::Outside::Outbox.personal(5).map { |letter| letter[:subject] }).to eq ["Vestry: a new password"]
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
    expect(last_response.body).to include("a letter is on its way")
    enter orla
    get "/you"
    post "/sign-out", authenticity_token: token
    follow_redirect!
    expect(last_response.body).to include("Signed out")
    get "/sign-in"
    expect(last_response.body).not_to include("Signed out")
  end

  it "changes a password only with the old one where that was not typed lately" do
    enter orla
    forget_typing
    get "/password"
    post "/password", password: "wrong", "new-password": "another long password",
                      "password-confirm": "another long password", authenticity_token: token
    expect(last_response.status).to eq 401
    post "/password", password: World::PASSWORD, "new-password": "short", "password-confirm": "short",
                      authenticity_token: token
    expect(last_response.status).to eq 422
    expect(last_response.body).to include("is too short: 12 characters or more")
    post "/password", password: World::PASSWORD, "new-password": "another long password",
                      "password-confirm": "another long password", authenticity_token: token
    expect(last_response.status).to eq 302
    expect(letter[:subject]).to include("your password was changed")
    clear_cookies
    enter orla, "another long password"
    expect(home).to eq 200
  end

  it "takes one's own name with six letters more, and not with five" do
    fault = ->(text) { Vestry::Deeds::PasswordRule.fault(text, about: ["Hanna Sorrel"]) }
    expect(fault["Hanna Sorrel 1234"].to_s).to include "own name"
    expect(fault["Hanna Sorrel 12345"]).to be_nil
  end

  it "takes no password that is short, common, cut off or one's own name" do
    refused = ["short", "aaaaaaaaaaaa", "Password12345", "baseballbaseball", "orla.finch12", "Orla Finch 1!", "ä" * 40,
               "a fine sentence\u0000 that ends"]
    told = refused.map { |each| Vestry::Deeds::PasswordRule.fault(each, about: [orla.email, orla.name]) }
    expect(told.map { |words| words.to_s[/short|simple|many people|own name|too long|typed/] })
      .to eq ["short", "simple", "many people", "many people", "own name", "own name", "too long", "typed"]
    expect(["bark slips in april", "a" * 30 + "bcdefg",
            "pörük ämne älv"].map { |each| Vestry::Deeds::PasswordRule.fault(each) }).to eq [nil, nil, nil]
  end

  # As another browser that holds this cookie.
  def carry(sealed)
    clear_cookies
    set_cookie "vestry=#{Rack::Utils.escape(sealed)}"
  end

  # As if the password had been typed a while ago.
  def forget_typing = allow(Time).to(receive(:now).and_return(Time.at(Time.now.to_i + 700)))

  def cookie_for(name)
    Array(last_response.headers["set-cookie"]).flat_map { |each| each.split("\n") }.find do |each|
      each.start_with?("#{name}=")
    end
  end

  it "stays signed in on a device when asked to, and not after signing out there" do
    enter orla
    expect(cookie_for("vestry")).not_to match(/expires|max-age/i)
    clear_cookies
    enter orla, World::PASSWORD, remember: "yes"
    expect(cookie_for("vestry")).to match(/expires/i)
    kept = rack_mock_session.cookie_jar["vestry"]
    Vestry::DB[:account_active_session_keys].update(last_use: Sequel.lit("last_use - interval '20 days'"))
    expect(home).to eq 200
    get "/you"
    carry(kept)
    expect(home).to eq 200
    get "/you"
    post "/sign-out", authenticity_token: token
    expect(last_response.headers["clear-site-data"]).to eq '"cache"'
    clear_cookies
    carry(kept)
    expect(home).to eq 302
  end

  it "signs out a device that was not told to stay after a day without use" do
    enter orla
    Vestry::DB[:account_active_session_keys].update(last_use: Sequel.lit("last_use - interval '25 hours'"))
    expect(home).to eq 302
  end

  it "ends the sessions a person has elsewhere, those that stay among them" do
    enter orla, World::PASSWORD, remember: "yes"
    stolen = rack_mock_session.cookie_jar["vestry"]
    carry(stolen)
    expect(home).to eq 200
    clear_cookies
    enter orla
    get "/you"
    post "/you/sessions", authenticity_token: token
    expect(last_response.status).to eq 302
    expect(home).to eq 200
    clear_cookies
    carry(stolen)
    expect(home).to eq 302
  end

  it "ends one session, on the device that was lost" do
    enter orla, World::PASSWORD, remember: "yes"
    lost = rack_mock_session.cookie_jar["vestry"]
    carry(lost)
    expect(home).to eq 200
    clear_cookies
    enter orla
    get "/you"
    post "/you/sessions/end", session: last_response.body[/name="session"\s+value="([^"]+)"/, 1],
                              authenticity_token: token
    expect(home).to eq 200
    clear_cookies
    carry(lost)
    expect(home).to eq 302
  end

  it "tells a person by letter of a device not seen before" do
    enter orla
    expect(Vestry::DB[:letters].count).to eq 0
    enter orla
    clear_cookies
    enter orla
    expect(letter[:subject]).to include("not seen before")
    expect(Vestry::DB[:letters].count).to eq 1
  end

  it "sends cookies by TLS alone where TLS serves, under a name that this host alone can set" do
    get "/sign-in", {}, "HTTPS" => "on"
    expect(Array(last_response.headers["set-cookie"]).join("\n")).to match(/\A__Host-vestry=/).and match(/httponly/i)
      .and match(/; secure/i)
    expect(last_response.headers["strict-transport-security"]).to include("max-age")
    post "/sign-in", { login: orla.email, password: World::PASSWORD, authenticity_token: token }, "HTTPS" => "on"
    sealed = cookie_for("__Host-vestry")[/=([^;]+)/, 1]
    clear_cookies
    get "/o/#{here.slug}/survey", {}, "HTTPS" => "on", "HTTP_COOKIE" => "__Host-vestry=#{sealed}"
    expect(last_response.status).to eq 200
    get "/o/#{here.slug}/survey", {}, "HTTPS" => "on", "HTTP_COOKIE" => "vestry=#{sealed}"
    expect(last_response.status).to eq 302
  end

  it "opens with secrets that were changed a moment ago" do
    enter orla
    sealed = rack_mock_session.cookie_jar["vestry"]
    allow(Vestry::Settings).to receive(:cookie_secrets).and_return(["n" * 80, *Vestry::Settings.cookie_secrets])
    later = Rack::Test::Session.new(Vestry::Web::Stack.build)
    later.set_cookie("vestry=#{Rack::Utils.escape(sealed)}")
    later.get "/o/#{here.slug}/survey"
    expect(later.last_response.status).to eq 200
    allow(Vestry::Settings).to receive(:cookie_secrets).and_return(["n" * 80])
    never = Rack::Test::Session.new(Vestry::Web::Stack.build)
    never.set_cookie("vestry=#{Rack::Utils.escape(sealed)}")
    never.get "/o/#{here.slug}/survey"
    expect(never.last_response.status).to eq 302
  end
end

RSpec.describe "Belonging" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(name: "Trial Hill") }
  let!(:orla) { person("Orla Finch", steward: here) }

  def invite(role = "grafter") = Vestry::Deeds::InvitePerson.call(here, role: role, name: "Tam", by: "Orla Finch")

  def join(link, **typed)
    get "/join/#{link}"
    post "/join/#{link}", { name: "Tam Reddaway", email: "tam@trial.example", password: World::PASSWORD,
                            again: World::PASSWORD, authenticity_token: token }.merge(typed)
  end

  it "lets one person in by a link, once" do
    link = invite
    join link
    tam = Vestry::Records::Account.first(email: "tam@trial.example")
    expect(tam.role_in(here)).to eq "grafter"
    get "/sign-in"
    post "/join/#{link}", name: "Else", email: "else@trial.example", password: World::PASSWORD, again: World::PASSWORD,
                          authenticity_token: token
    expect(last_response.status).to eq 410
    expect(Vestry::Records::Account.first(email: "else@trial.example")).to be_nil
  end

  it "keeps what was typed when joining cannot be done, without the password" do
    join invite, password: "short", again: "short"
    expect(last_response.status).to eq 422
    expect(last_response.body).to include('value="Tam Reddaway"', "is too short: 12 characters or more")
    expect(last_response.body).not_to include('value="short"')
  end

  it "refuses a link that was revoked or is too old" do
    old = Vestry::Deeds::InvitePerson.call(here, role: "viewer", name: "", by: "Orla", now: Time.now.utc - 20 * 86_400)
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
    members.map { |each| Thread.new { Vestry::Deeds::ChangeMember.call(here, each.id, nil, by: "x") rescue nil } }
      .each(&:join)
    expect(Vestry::Records::Membership.in_sight.where(orchard_id: here.id).count).to eq 1
  end
end
