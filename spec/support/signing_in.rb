# frozen_string_literal: true

# Signing in, by the browser and by plain requests.
module SigningIn
  def sign_in(account, password = World::PASSWORD)
    visit "/sign-in"
    fill_in "Email", with: account.email
    fill_in "Password", with: password
    click_button "Sign in"
    expect(page).to have_no_button("Sign in")
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
