# frozen_string_literal: true

RSpec.describe "Wood, from a plan to a match" do
  let!(:here) { demo }

  before do
    sign_in person(steward: here)
    Vestry::Records::Bundle.where(orchard_id: here.id).all.each { |bundle| bundle.update(hidden_at: Time.now) }
  end

  it "goes from what is planned to a cutting list, to bundles that are judged and counted, to the stick for each " \
     "stub" do
    visit "/o/maunder-hill/wood"
    within("section[aria-labelledby='want-h']") do
      expect(page).to have_content("Tollgate Amber").and have_content("to be cut between")
    end
    click_link "Cutting list to carry"
    within("section[aria-labelledby='sized-h']") do
      expect(page).to have_content("E3 E4").and have_content("Whip-and-tongue")
      expect(page).to have_css(".bundle-sticks [aria-label$='E3 E4']")
    end
    expect(page).to have_css("svg.wood-card", count: 5)

    visit "/o/maunder-hill/wood/match"
    expect(page).to have_css("h1.now", text: "No wood for 2026 is in store")
    expect(page).to have_link("The cutting list")

    visit "/o/maunder-hill/wood"
    click_link "Make a bundle"
    find("option", text: /\ATollgate Amber/).select_option
    fill_in "or from elsewhere", with: "A neighbour"
    fill_in "Cut on", with: Date.new(2026, 1, 16)
    fill_in "Diameters, one after another", with: "8 9 9.5 90 8"
    click_button "Tie this bundle"
    expect(page).to have_content("number 4, “90”, is 90 mm")
    fill_in "Diameters, one after another", with: "8 9 9.5 10 8 8.5 9 9 8 10 9 8.5 9 9.5"
    click_button "Tie this bundle"
    expect(page).to have_content("below the ring scar it is older wood, and refused")
    all("input[name='checked[]']").each { |box| box.set(true) }
    click_button "Tie this bundle"
    expect(page).to have_css("h1.now", text: /\AWood \d+: 14 sticks of Tollgate Amber left/)

    visit "/o/maunder-hill/wood/match"
    expect(page).to have_css("svg.fit .there", minimum: 14)
    within("tr", text: "A6 A") do
      find("summary", text: "another stick").click
      find("select option:last-child").select_option
      click_button "Keep it for this stub"
    end
    within("tr", text: "A6 A") { expect(page).to have_button("let go") }

    visit "/o/maunder-hill/graft/limbs/" \
          "#{here.trees_dataset.first(row: 'A', number: 6).limbs.find { |limb| limb.tag == 'A' }.id}"
    find("option", text: /\AWood \d+ Tollgate Amber, 14 left/).select_option
    fill_in "Stub across", with: "49 mm"
    click_button "Log this graft"
    expect(page).to have_content("Aftercare")
    visit "/o/maunder-hill/wood/bundles/#{Vestry::Records::Bundle.order(:id).last.id}"
    expect(page).to have_css(".bundle-sticks [aria-label$='mm, A6 A']", count: 2)
    find("summary", text: "Stick by stick").click
    expect(page).to have_content("on A6 A", count: 2)
    expect(page).to have_css("h1.now", text: "12 sticks")
  end

  it "mixes a dip both ways, and warns of one that is too strong" do
    visit "/o/maunder-hill/wood/dip"
    expect(page).to have_content("Never with acid or ammonia")
    fill_in "Dip wanted", with: "2"
    find("select[aria-label='the dip is measured in']").select("jug")
    fill_in "Strength wanted, % of the active ingredient", with: "0.2"
    click_button "Reckon it", match: :first
    expect(page).to have_css(".answer", text: "88.9 ml")
    fill_in "Product put in", with: "2"
    find("select[aria-label='the product is measured in']").select("cup")
    fill_in "Into so much water", with: "2"
    find("select[aria-label='the water is measured in']").select("jug")
    within("section[aria-labelledby='mixed-h']") { click_button "Reckon it" }
    expect(page).to have_css(".answer", text: "0.90 %").and have_css(".answer", text: "Near enough")
    fill_in "Product put in", with: "lots"
    within("section[aria-labelledby='mixed-h']") { click_button "Reckon it" }
    expect(page).to have_content("“lots” is no number: write it as 2, 0.5 or 1 1/2.")
  end

  it "shows how a store kept its wood, and takes in a log" do
    visit "/o/maunder-hill/wood"
    click_link "Scion fridge"
    expect(page).to have_css("svg.store-curve .warm", minimum: 1)
    expect(page).to have_content("degree-hours above 4.5 °C")
    file = Tempfile.new(["log", ".csv"]).tap { |log| log.write("at,celsius\n2026-05-18 06:00,nine\n") && log.close }
    attach_file "File", file.path
    click_button "Bring it in"
    expect(page).to have_content("line 2, column “celsius”: “nine” is not a number")
    File.write(file.path, "at,celsius\n2026-05-18 07:00,9\n")
    attach_file "File", file.path
    click_button "Bring it in"
    expect(page).to have_css("h1.now", text: "9.0 °C on 18 May: too warm")
  end
end
