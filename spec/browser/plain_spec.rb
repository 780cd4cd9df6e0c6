# frozen_string_literal: true

# In the south, in inches, on a phone, and without scripts: reading and every form still serve.
RSpec.describe "Without scripts, in inches, south of the equator" do
  let!(:here) { orchard(latitude: -36.2, longitude: 146.1, units: "imperial") }
  let!(:kind) { variety(here, "Harbour Pippin") }

  def on(day) = allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
  def go(path) = visit("/o/#{here.slug}/#{path}")
  def scripts(run) = page.driver.browser.page.command("Emulation.setScriptExecutionDisabled", value: !run)
  def shot(name) = ENV["SHOTS"] && page.save_screenshot("/tmp/walk/plain-#{name}.png", full: true)

  before do
    sign_in person("Rowan Pike", steward: here)
    page.current_window.resize_to(390, 844)
    scripts(false)
  end

  after { scripts(true) }

  it "surveys, plans, grafts, visits and counts" do
    on(Date.new(2026, 8, 3))
    go "survey/trees/new"
    fill_in "Row", with: "A"
    fill_in "Number", with: "1"
    select "Apple", from: "Species of the stock"
    fill_in "Height", with: "12 ft"
    click_button "Add"
    go "survey"
    click_link "A1", match: :first
    fill_in "Limb lines",
            with: "A n girth 8 1/4 in long 95 in from 36 in up 45\nB s girth 9 in long 98 in from 38 in up 40\nC e " \
                  "girth tall"
    click_button "Keep these limbs"
    expect(page).to have_css(".bad", text: "tall")
    expect(page).to have_content("2 limbs kept on A1")
    expect(page).to have_field("Limb lines", with: "C e girth tall")
    shot "limbs"
    click_link "Plan A1"
    shot "plan"
    click_link "A", exact_text: true, match: :first
    expect(page).to have_content(/\d+ (\d\/\d+ )?in from the fork/)
    select "Harbour Pippin", from: "Becomes"
    click_button "Keep this plan"
    expect(page).to have_css("h1.now", text: /A1 A is to become Harbour Pippin in 2026: cut at [\d \/]+ in/)
    shot "planned"

    on(Date.new(2026, 10, 6))
    go "slip"
    shot "slip"
    expect(first("svg.year-band .month", visible: :all).text(:all)).to eq "May"
    go "graft"
    click_link "Log it", match: :first
    fill_in "Stub across", with: "2 1/8 in"
    shot "log"
    click_button "Log this graft"
    expect(page).to have_content("Grafted\n6 October")
    shot "graft"
    on(Date.new(2026, 11, 20))
    visit current_path
    choose "leafing"
    fill_in "Longest shoot", with: "6 1/2 in"
    click_button "Record this visit"
    expect(page).to have_content("It has taken.")
    on(Date.new(2026, 12, 15))
    go "tend"
    click_button "Did it"
    expect(page).to have_css(".notice", text: "done")
    find("summary", text: "All of it, as a list").click
    first("td.tick input").check
    click_button "Done", match: :first
    expect(page).to have_css(".notice", text: "done")

    on(Date.new(2027, 4, 6))
    go "tally"
    expect(page).to have_css("h1.now", text: "1 graft still to count")
    click_link "Row A"
    click_link "Count from A1 A"
    fill_in "Longest shoot this season", with: "31 in"
    fill_in "Thick above the union", with: "5/8 in"
    click_button "Keep this tally"
    expect(page).to have_content("2 ft 7 in").or have_content("31 in")
    shot "life"
  end
end
