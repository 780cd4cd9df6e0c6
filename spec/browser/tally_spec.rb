# frozen_string_literal: true

RSpec.describe "The autumn count" do
  let!(:here) { demo }

  before do
    allow(Vestry::Outside::Clock).to receive(:today).and_return(Date.new(2026, 10, 12))
    sign_in person(steward: here)
  end

  it "goes down a row on the phone, and curves, rings and rates follow" do
    page.current_window.resize_to(390, 844)
    visit "/o/maunder-hill/tally?row=D"
    # D1 A1 was found to be a limb by an earlier count: it is not asked for, and counted all the same.
    expect(find(".now").text).to eq "3 grafts in row D still to count: begin with D1 C1."
    expect(find("tr", text: "D1 A1")).to have_content("2025: alive, and a limb")
    expect(find("tr", text: "D1 C1")).to have_no_content("and a limb")
    find("a[aria-label='Count D1 A1']").click
    fill_in "Longest shoot this season", with: "55 cm"
    fill_in "Thick above the union", with: "52"
    fill_in "Open wound, longest", with: "90"
    click_button "Keep it, and go on down the row"
    expect(page).to have_css(".error", text: "wider than the stub")
    fill_in "Open wound, longest", with: "12"
    fill_in "And across it", with: "9"
    fill_in "Crop", with: "2,5 kg"
    fill_in "Sticks alive", with: "1"
    click_button "Keep it, and go on down the row"
    expect(page).to have_content("D1 A1 is counted.").and have_css("h2", text: "D1 C1")
      .and have_css(".docket", text: "Row D: 1 of 4 grafts counted.")

    visit "/o/maunder-hill/tally?row=D"
    click_link "D1 A1"
    expect(page).to have_css("svg.rings .open", count: 4)
    expect(page).to have_css("table.list tr", text: /2026.*550 mm.*12 mm × 9 mm.*2\.5 kg/m)
    expect(page).to have_css(".story li", text: "Autumn tally: alive, grew 550 mm")

    visit "/o/maunder-hill/tally/took"
    before = find("p", text: /whose fate is known took/).text
    graft = here.grafts.find { |each| each.limb.label == "A9 D" }
    visit "/o/maunder-hill/tally/grafts/#{graft.id}"
    choose "lost"
    fill_in "Breakage", with: "snapped at the union"
    click_button "Keep this tally"
    expect(page).to have_current_path(%r{/tally/limbs/})
    visit "/o/maunder-hill/tally/took"
    expect(find("p", text: /whose fate is known took/).text).not_to eq before
    select "grafter", from: "By"
    click_button "Show"
    expect(page).to have_css("svg.intervals .rate", minimum: 2).and have_content("On like work")
  end

  it "draws the orchard as far as it was grafted by a season, while the slider is moved" do
    visit "/o/maunder-hill/tally"
    grafted = page.all("#years-map .tree .grafted").size
    now("window.stayed = true")
    find("#year-slide").send_keys(*[:left] * 10)
    expect(page).to have_css("output[for='year-slide']", exact_text: find("#year-slide")["min"])
    expect(page).to have_css("#years-map .tree .grafted", maximum: grafted - 1)
    expect(now("[window.stayed, document.activeElement.id]")).to eq [true, "year-slide"]
    expect(page).to have_current_path(/season=#{find("#year-slide")["min"]}\z/)
  end

  it "goes through a tree's years by slider, keys and without either" do
    tree = here.trees_dataset.first(row: "D", number: 1)
    visit "/o/maunder-hill/tally/trees/#{tree.id}"
    expect(page).to have_css("svg.elevation .limb.grafted", count: 4)
    page.execute_script("const slide = document.getElementById('year-slide'); slide.value = 2022; " \
                        "slide.dispatchEvent(new Event('input', { bubbles: true })); slide.dispatchEvent(new " \
                        "Event('change', { bubbles: true }));")
    expect(page).to have_css(".page.past-year").and have_no_css("svg.elevation .limb.grafted")
    find("body").send_keys("]")
    expect(page).to have_css("output", text: "2023")
    expect(page).to have_css("svg.elevation .limb.lost", count: 1)
    visit "/o/maunder-hill/tally/trees/#{tree.id}?year=2030"
    expect(page).to have_css(".page.coming-year")
    expect(page).to have_content("as it may be")
    expect(page).to have_css("table.list tr", text: /2023\s+A1 C1 D1\s+A1 D1\s+C1/)
  end
end
