# frozen_string_literal: true

# Whoever comes to the machine next.
RSpec.describe "After signing out" do
  let!(:here) { demo }
  let!(:orla) { person("Orla Finch", steward: here) }

  it "the way back shows nothing of the orchard" do
    sign_in orla
    visit "/o/#{here.slug}/people"
    expect(page).to have_css("th", text: "Orla Finch")
    click_link "The outbox"
    expect(page).to have_text("letter")
    find(".person summary").click
    click_button "Sign out"
    expect(page).to have_button("Sign in")
    3.times do
      page.go_back
      expect(page).to have_no_css("th", text: "Orla Finch")
      expect(page).to have_no_css(".orchard", text: "Maunder Hill")
    end
  end
end
