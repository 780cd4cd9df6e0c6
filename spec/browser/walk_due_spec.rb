# frozen_string_literal: true

RSpec.describe "The walk of what is due" do
  let!(:here) { demo }

  before do
    sign_in person(grafter: here)
    page.current_window.resize_to(1280, 800)
    visit "/o/maunder-hill/tend"
  end

  def stop = find(".walk-card h2 a").text
  def settled = Vestry::Records::TaskDone.in_sight.order(:id).last

  it "draws only trees with something due, joined in walking order, and the first stop large" do
    labels = all("a.tree").map { |tree| tree["aria-label"][/\A\w+/] }
    expect(labels).to include("A2", "C10").and exclude("B7", "D5")
    expect(page).to have_css(".orchard-map .walk").and have_css("a.tree.wanted[aria-label^='A2,']", count: 1)
    expect(stop).to eq "A2 E"
    expect(now("document.querySelector('.walk-acts .go').getBoundingClientRect().bottom")).to be <= 800
  end

  it "brings the next one by one press, without a page: done, or not today" do
    now("window.stayed = true")
    # A look is done by saying what was seen.
    expect(page).to have_link("Looked", class: "go").and have_no_button("Did it")
    click_button "Not today"
    expect(page).to have_content("A2 E: first look is put off.")
    click_button "Undo the last"
    expect(page).to have_content("A2 E: taken back.").and have_css(".walk-card .what b", exact_text: "First look")
    expect(page).to have_no_button("Undo the last")
    click_button "Not today"
    # Something else is due there still, and comes next.
    expect(page).to have_css(".walk-card .what b", text: "Shade what moved too soon")
    expect([now("window.stayed"), stop]).to eq [true, "A2 E"]
    click_button "Did it"
    expect(page).to have_content("A2 E: shade what moved too soon is done.")
    expect(settled).to have_attributes(what: "done", done_by: "Orla Finch")
    onward = find_link(text: /\AOn to/).text.delete_prefix("On to ")
    click_link "On to #{onward}"
    expect(page).to have_css(".walk-card h2 a", exact_text: onward)
      .and have_css("a.tree.wanted[aria-label^='#{onward.split.first},']")
    title = find(".walk-card .what b").text
    click_button "Not today"
    expect(page).to have_content(/#{onward}: .* is put off\./)
    expect(settled).to have_attributes(what: "put-off", until_on: World::TODAY + 1, why: "not today")
    expect([stop, find(".walk-card .what b").text]).not_to eq [onward, title]
    expect(now("window.stayed")).to be true
  end

  it "leads from a tree of the drawing to its stop, and from looking to the union" do
    find("a.tree[aria-label^='C10,']").click
    expect(page).to have_css(".walk-card h2 a", text: /\AC10/)
    click_link "Look", exact_text: true
    expect(page).to have_css("h1.now, .docket h2", text: "C10")
  end
end

RSpec::Matchers.define_negated_matcher :exclude, :include
