# frozen_string_literal: true

RSpec.describe "The bench" do
  let!(:here) { demo }
  let(:stub) { here.trees_dataset.first(row: "A", number: 6).limbs_dataset.first(tag: "A") }

  before do
    sign_in person(grafter: here)
    page.current_window.resize_to(1280, 800)
    visit "/o/maunder-hill/graft/limbs/#{stub.id}"
  end

  def made = Vestry::Records::Graft.where(limb_id: stub.id).order(:id).last

  it "logs a graft that went to plan in two presses, without scrolling, and goes on to the next stub" do
    expect(box(".keep-bar .go")["bottom"]).to be <= 800
    find(".lift", text: "cleanly").click
    click_button "Log it, and on to A6 D"
    expect(page).to have_content("A6 A is logged").and have_css("h1.now", text: /\AA6 D, rind graft/)
    expect(made).to have_attributes(bark_slip: "clean", technique: "rind", sticks: 2, stub_mm: 49,
                                    grafted_on: World::TODAY)
  end

  it "asks of another method what that one knows" do
    expect(page).to have_field("Wrap").and have_field("Perch for birds").and have_no_field("Joined to the rooted plant")
    select "Approach graft", from: "Method"
    expect(page).to have_no_field("Wrap").and have_field("Seal").and have_no_field("Cover")
      .and have_field("Joined to the rooted plant")
    expect(page).to have_field("Limb across").and have_css("[data-many]", exact_text: "plants")
      .and have_css(".sentence > [data-methods]", exact_text: "set")
    select "Shield bud", from: "Method"
    expect(page).to have_field("Shoot across").and have_css("[data-many]", exact_text: "buds")
      .and have_css(".sentence > [data-methods]", exact_text: "set")
    expect(page).to have_no_field("Seal").and have_no_field("Perch for birds").and have_field("Braced")
    select "Rind graft", from: "Method"
    expect(page).to have_field("Wrap").and have_field("Cover").and have_field("Stub across")
    expect(page).to have_css("[data-many]", exact_text: "sticks")
      .and have_css(".sentence > [data-methods]", exact_text: "cut")
  end

  it "takes a face from where the disc was pulled to, and a size from its edge; keys do the same" do
    x, y = middle("svg.bench-stub .bark")
    # To the right hand of the middle: ninety degrees from the upper side.
    pull(middle(".disc[data-index='1'] .stick"), [x + 190, y], steps: 8)
    expect(page).to have_field("Faces, °", with: "-45 90")
    now("document.querySelector('.disc[data-index=\"0\"]').focus()")
    page.driver.browser.keyboard.type(:Left, :Left)
    expect(page).to have_field("Faces, °", with: "-55 90")
    expect(find(".disc[data-index='0']")["aria-valuetext"]).to eq "55 degrees left of the upper side"
    page.driver.browser.keyboard.type("+")
    expect(page).to have_field("Stick across", with: "7.5 mm")
    click_button "Log this graft"
    expect(page).to have_content("Aftercare")
    expect([made.faces.map(&:to_i), made.scion_mm.to_f]).to eq [[-55, 90], 7.5]
  end

  it "draws what is typed: another method, more sticks, a thicker stub" do
    before = box("svg.bench-stub .bark")["width"]
    fill_in "Sticks", with: "3"
    expect(page).to have_css(".disc", count: 3).and have_css(".sentence", text: "sticks facing")
    fill_in "Sticks", with: "1"
    expect(page).to have_css(".sentence", text: /(?<!s)\bstick facing/)
    fill_in "Sticks", with: "3"
    fill_in "Stub across", with: "30 mm"
    expect(page).to have_css("svg.bench-stub desc", text: "30 mm across", visible: :all)
    expect(box("svg.bench-stub .bark")["width"]).to be < before
    select "Chip bud", from: "Method"
    expect(page).to have_no_css("svg.bench-stub").and have_css("#bench svg.side-cuts, #bench svg.cuts")
    expect(page).to have_field("Who", with: "Orla Finch")
  end
end
