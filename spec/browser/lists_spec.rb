# frozen_string_literal: true

RSpec.describe "Lists, and what is found" do
  let!(:here) { demo }

  before { sign_in person(steward: here) }

  def column(number) = all("table[data-sorts] tbody tr").map { |row| row.all("th, td")[number].text }

  it "sorts a list by the heading that is pressed, numbers by their size, and keeps the order" do
    bundle = Vestry::Records::Bundle.where(orchard_id: here.id).order(:number).first
    visit "/o/maunder-hill/wood/bundles/#{bundle.id}"
    find("summary", text: "Stick by stick").click
    sizes = -> { column(1).map { |text| text[/[\d.]+/].to_f } }
    given = sizes.call
    expect(given).not_to eq given.sort
    click_button "Thick"
    expect(sizes.call).to eq given.sort
    click_button "Thick"
    expect(sizes.call).to eq given.sort.reverse
    expect(find("th", text: "Thick")["aria-sort"]).to eq "descending"
    visit current_path
    find("summary", text: "Stick by stick").click
    expect(sizes.call).to eq given.sort.reverse
  end

  it "sorts lengths in feet, inches and their fractions, and days of several years" do
    here.update(units: "imperial")
    row = here.trees_dataset.first(row: "A", number: 1)
    girths = { "A" => 95, "B" => 320, "C" => 1250, "D" => 210, "E" => 9.5 }
    made = girths.map do |tag, _|
      graft(limb(row, "S#{tag}"), grafted_on: Date.new(2026, 4, 21) - { "A" => 0, "B" => 400, "C" => 170, "D" => 2,
                                                                        "E" => 700 }[tag])
    end
    made.zip(girths.values) do |each, mm|
      Vestry::Records::Tally.create(orchard_id: here.id, graft_id: each.id, season: 2026, tallied_on: World::TODAY,
                                    alive: true, growth_mm: mm)
    end
    visit "/o/maunder-hill/tally?row=A"
    tags = lambda do |heading|
      click_button heading
      column(0).filter_map { |label| label[/ S([A-E])$/, 1] }.join
    end
    expect(tags["Grafted"]).to eq "EBCDA"
    expect(tags["Growth"]).to eq "EADBC"
    expect(tags["Growth"]).to eq "CBDAE"
  end

  it "goes back to the trees that were last looked for, until all are asked for again" do
    visit "/o/maunder-hill/survey"
    within("nav.facets") { click_link "planned" }
    expect(page).to have_current_path(/state=planned/)
    visit "/o/maunder-hill/tend"
    within(".stations") { click_link "Survey" }
    expect(page).to have_current_path(/state=planned/).and have_css("nav.facets a[aria-current]", text: "planned")
    within("nav.facets") { click_link "all trees" }
    expect(page).to have_no_css("nav.facets a[aria-current]")
    within(".stations") { click_link "Tend" }
    within(".stations") { click_link "Survey" }
    expect(page).to have_no_css("nav.facets a[aria-current]")
  end

  it "finds a row, a bundle, a method, a practice and a setting, and says which limb is not there" do
    looked_for = lambda do |words|
      find("#find").set(words).send_keys(:enter)
      page
    end
    visit "/o/maunder-hill/today"
    expect(looked_for["Row B"]).to have_css("h1.now", text: "Found for “Row B”: row B")
    click_link "Its trees and their plans"
    expect(page).to have_css("nav.facets a[aria-current]", text: "B")
    expect(looked_for["wood 2"]).to have_css("h1.now", text: /\AWood 2: /)
    expect(looked_for["cleft"]).to have_link("Cleft graft")
    click_link "Cleft graft"
    expect(page).to have_current_path("/o/maunder-hill/rulebook/methods", ignore_query: true).and have_css("#m-cleft")
    expect(looked_for["browse"]).to have_link("What grazes below, browse line")
    expect(looked_for["A6 Z"]).to have_content("A6 has no limb Z")
  end
end
