# frozen_string_literal: true

RSpec.describe "A security key" do
  let!(:here) { demo }
  let!(:orla) { person("Orla Finch", steward: here) }

  # One that the browser plays, and that is touched at once.
  def with_key
    browser = page.driver.browser
    browser.page.command("WebAuthn.enable")
    browser.page.command("WebAuthn.addVirtualAuthenticator",
                         options: { protocol: "ctap2", transport: "usb", hasResidentKey: false,
                                    hasUserVerification: false, isUserVerified: false,
                                    automaticPresenceSimulation: true })
    yield
  ensure
    browser.page.command("WebAuthn.disable")
  end

  # A key is for a name, and not for a number.
  around do |example|
    before, Capybara.app_host = Capybara.app_host, nil
    example.run
  ensure
    Capybara.app_host = before
  end

  it "is added with a touch, and opens with a touch from then on" do
    visit "/sign-in"
    server = URI(page.current_url)
    Capybara.app_host = "http://localhost:#{server.port}"
    allow(Vestry::Settings).to receive(:address).and_return(Capybara.app_host)
    sign_in_by_hand orla
    with_key do
      visit "/second-step"
      click_link "Add a security key"
      click_button "Add it"
      expect(page).to have_css("h1", text: "Recovery codes")
      expect(Vestry::DB[:account_webauthn_keys].count).to eq 1
      visit "/you"
      find(".person summary").click
      # By its key: what the pointer aims at moves while letters come.
      find_button("Sign out").send_keys(:enter)
      fill_in "Email", with: orla.email
      fill_in "Password", with: World::PASSWORD
      click_button "Sign in"
      expect(page).to have_css("h1", text: "One more step")
      click_link "Your security key"
      click_button "Go on"
      expect(page).to have_css(".orchard", text: "Maunder Hill")
    end
  end

  it "that does not answer is said, and leaves the other ways" do
    visit "/sign-in"
    sign_in_by_hand orla
    visit "/security-key-setup"
    click_button "Add it"
    expect(page).to have_css("[data-trouble]", text: /did not answer|knows no security keys/)
    expect(Vestry::DB[:account_webauthn_keys].count).to eq 0
  end
end
