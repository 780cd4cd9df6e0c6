# frozen_string_literal: true

RSpec.describe "Where one stands" do
  let!(:here) { demo }

  before do
    sign_in person(steward: here)
    page.current_window.resize_to(390, 844)
  end

  # As the phone's own finder of places would say it, allowed by the person who holds it.
  def stand_at(latitude, longitude, accuracy: 5)
    permit "geolocation"
    page.driver.browser.page.command("Emulation.setGeolocationOverride", latitude: latitude,
                                     longitude: longitude, accuracy: accuracy)
  end

  it "is offered for a new tree with how sure it is, and kept with it" do
    visit "/o/maunder-hill/survey/trees/new"
    stand_at(50.60123, -2.90456, accuracy: 6)
    find("summary", text: "Where it stands").click
    click_button "Where I stand"
    expect(page).to have_content("Where you stand, to 6 m.")
    stand_at(50.60123, -2.90456, accuracy: 30)
    click_button "Where I stand"
    expect(page).to have_content("wider than a row")
    fill_in "Row", with: "Q"
    fill_in "Number", with: "1"
    select "Apple", from: "Species of the stock"
    choose "bush"
    click_button "Add"
    expect(page).to have_content("Q1")
    expect(here.trees_dataset.first(row: "Q", number: 1)).to have_attributes(latitude: 50.60123, longitude: -2.90456)
  end

  it "lists the trees that stand nearest, nearest first" do
    [["B", 1, 50.6001], ["B", 2, 50.6004], ["B", 3, 50.6002]].each do |row, number, latitude|
      here.trees_dataset.first(row: row, number: number).update(latitude: latitude, longitude: -2.9)
    end
    visit "/o/maunder-hill/find"
    stand_at(50.6, -2.9)
    click_button "Trees nearest to me"
    expect(page).to have_css("h2", text: "Nearest to where you stand")
    expect(all("main li").map(&:text)).to eq ["B1, 11 m", "B3, 22 m", "B2, 45 m"]
    visit "/o/maunder-hill/find?lat=400&lon=x"
    expect(page).to have_no_css("h2", text: "Nearest")
  end
end
