# frozen_string_literal: true

RSpec.describe "A grafting day on the phone" do
  let!(:here) { demo }

  before do
    page.current_window.resize_to(390, 844)
    sign_in person(grafter: here)
  end

  it "goes from the day's sheet to the cuts, to what turned out different, to the log" do
    visit "/o/maunder-hill/graft"
    click_link "Today's sheet"
    expect(page).to have_content("To carry").and have_content("stretch tape").and have_content("Wood 2")
    expect(page).to have_css("article.card svg.stub", minimum: 10)
    within("article.card", text: "A6 A: Tollgate Amber") { click_link "The cuts" }
    expect(page).to have_css("svg.cuts")
    expect(page).to have_content("A second pair of hands.").and have_content("Left showing")
    fill_in "Stick across", with: "12 mm"
    click_button "Draw it so"
    expect(page).to have_content("Long face\n69 mm")
    fill_in "Stick across", with: "thick"
    click_button "Draw it so"
    expect(page).to have_content("“thick” is not a length")

    visit "/o/maunder-hill/graft/sheet"
    within("article.card", text: "A6 A: Tollgate Amber") { click_link "It turned out different" }
    fill_in "It tore, so far below the cut", with: "6 cm"
    choose "will not lift"
    click_button "What now?"
    within(".answer") { expect(page).to have_content("70 mm lower").and have_content("change to the cleft graft") }
    click_link "Log it so"
    expect(page).to have_field("Method", with: "cleft")
    find("option", text: /\AWood 2 Tollgate Amber/).select_option
    click_button "Log this graft"
    expect(page).to have_content("Aftercare")
    expect(Vestry::Records::Graft.order(:id).last).to have_attributes(technique: "cleft", sticks: 2)
  end

  it "answers above what is typed without moving it from under the thumb" do
    visit "/o/maunder-hill/graft/sheet"
    within("article.card", text: "A6 A: Tollgate Amber") { click_link "It turned out different" }
    choice = find("label", text: "will not lift")
    top = -> { page.evaluate_script("arguments[0].getBoundingClientRect().top", choice).round }
    page.scroll_to(0, 0)
    fill_in "It tore, so far below the cut", with: "6 cm"
    before = top.call
    expect(page).to have_css(".answer", text: "70 mm lower")
    expect(top.call).to eq before
    fill_in "It tore, so far below the cut", with: ""
    expect(page).to have_no_css(".answer")
    expect(top.call).to eq before
  end
end
