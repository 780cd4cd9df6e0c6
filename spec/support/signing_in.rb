# frozen_string_literal: true

# Signing in, by the browser and by plain requests.
module SigningIn
  # What a person does at the door, in the browser, and where that leads.
  def sign_in_by_hand(account, password = World::PASSWORD)
    visit "/sign-in"
    fill_in "Email", with: account.email
    fill_in "Password", with: password
    click_button "Sign in"
    expect(page).to have_no_button("Sign in")
  end

  # The browser as one in which the account has signed in: the door is gone through by plain requests, and two pages
  # that the spec is not about are not drawn.
  def sign_in(account, password = World::PASSWORD)
    door = Rack::Test::Session.new(Capybara.app)
    door.get "/sign-in"
    door.post "/sign-in", login: account.email, password: password,
                          authenticity_token: door.last_response.body[/name="authenticity_token" value="([^"]+)"/, 1]
    expect(door.last_response.status).to eq 302
    page.driver.set_cookie("vestry", Rack::Utils.escape(door.cookie_jar["vestry"]),
                           httponly: true, domain: Capybara.server_host || "127.0.0.1")
  end

  # The token the last page's forms carry.
  def token = last_response.body[/name="authenticity_token" value="([^"]+)"/, 1]

  # Sends a form's fields by plain request, with a fresh token.
  #
  # @return [Integer] the status
  def send_to(path, **fields)
    get "/you"
    post path, fields.merge(authenticity_token: token)
    last_response.status
  end

  def enter(account, password = World::PASSWORD, **more)
    get "/sign-in"
    post "/sign-in", { login: account.email, password: password, authenticity_token: token }.merge(more)
  end
end

RSpec.configure { |config| config.include SigningIn, :database }
