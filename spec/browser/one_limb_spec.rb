# frozen_string_literal: true

RSpec.describe "One limb, from survey to its first autumn" do
  let!(:here) { demo }

  def follow(words) = click_link(words, exact: false, match: :first)
  def on(day) = ENV["VESTRY_TODAY"] = day

  around do |example|
    day = ENV["VESTRY_TODAY"]
    example.run
    ENV["VESTRY_TODAY"] = day
  end

  it "is marked, planned, grafted, visited and counted, and its story is told in order" do
    sign_in person(steward: here)
    visit "/o/#{here.slug}/survey"
    expect(page).to have_css("h1.now", text: "D1 B broke on 24 January")
    find("a.tree[aria-label^='B1,']").click
    expect(page).to have_css("svg.elevation a.tag", minimum: 4)

    find("svg.elevation a.tag[aria-label^='Limb D,'] text").click
    expect(page).to have_css("h1.now", exact_text: "B1 D has nothing decided: work it, keep it or lift it.")
    click_button "Mark to be worked"

    expect(page).to have_css("svg.limb-rule .cursor")
    expect(page).to have_css("svg.elevation .limb.chosen .cut")
    expect(page).to have_css("svg.stub .stick", count: 2)
    find("summary", text: "from the fork").click
    expect(page).to have_content("clear of the fork")
    within(".ranking") { expect(all(".method .choice").map(&:text).first(2)).to eq ["Bark graft", "Rind graft"] }
    select "Skylark Russet", from: "Becomes"
    click_button "Keep this plan"
    words = "B1 D is to become Skylark Russet in 2026: cut at 553 mm, rind graft, 2 sticks."
    expect(page).to have_css("h1.now", exact_text: words)

    follow "Log the graft"
    fill_in "Day", with: Date.new(2026, 5, 18)
    expect(page).to have_field("Who", with: "Orla Finch")
    fill_in "Stub across", with: "5.4 cm"
    expect(page).to have_content("= 54 mm")
    choose "cleanly"
    click_button "Log this graft"

    expect(page).to have_content("Aftercare")
    find("summary", text: "First look").click
    expect(page).to have_content("callus has knit on 8 June (by the calendar)")
    expect(page).to have_content("By now callus should have knit. Sooner tells you nothing.")

    on "2026-06-14"
    visit current_path
    find("summary", text: "In words").click
    fill_in "Day", with: Date.new(2026, 6, 14)
    choose "leafing"
    choose "it took"
    fill_in "Longest shoot", with: "6 cm"
    click_button "Record this visit"
    expect(page).to have_css(".state", exact_text: "growing")
    expect(page).to have_no_content("Open its wrap if no bud moves")

    on "2026-10-04"
    follow "Autumn tally of this graft"
    fill_in "Day", with: Date.new(2026, 10, 4)
    fill_in "Longest shoot this season", with: "1.05 m"
    fill_in "Open wound, longest", with: "46"
    fill_in "And across it", with: "43"
    expect(page).to have_content("= 43 mm")
    click_button "Keep this tally"

    expect(page).to have_css(".story li", text: "Autumn tally")
    story = all(".story li").map(&:text)
    expect(story.map { |line| line[/Surveyed|Grafted|It took|Autumn tally/] })
      .to eq ["Surveyed", "Grafted", "It took", "Autumn tally"]
    expect(page).to have_css("svg.elevation .limb.grafted.chosen .shoot", count: 2)
    expect(find("details.working", text: "32 %")).to be_truthy
  end
end
