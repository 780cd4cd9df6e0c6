# frozen_string_literal: true

RSpec.describe "Turning a tree" do
  let!(:here) { demo }
  let(:standing) { here.trees_dataset.first(row: "D", number: 5) }

  before do
    sign_in person(steward: here)
    page.current_window.resize_to(1280, 800)
    visit "/o/maunder-hill/survey/trees/#{standing.id}"
  end

  def from = find("#drawing")["data-from"].to_i

  it "follows the hand, without a page, and keeps the place, the focus and what was opened" do
    opened = find("summary", text: "Correct what is known of it")
    opened.click
    fill_in "Notes", with: "half typed"
    now("window.scrollTo(0, 60)")
    now("window.stayed = true")
    before = from
    box = now("document.querySelector('#drawing svg.elevation').getBoundingClientRect().toJSON()")
    mouse = page.driver.browser.mouse
    x, y = box["left"] + 120, box["top"] + 60
    mouse.move(x: x, y: y)
    mouse.down
    mouse.move(x: x + 45, y: y, steps: 6)
    expect(page).to have_css("#drawing[data-from='#{(before + 30) % 360}']")
    mouse.up
    expect(now("[window.stayed, window.scrollY]")).to eq [true, 60]
    expect(page).to have_field("Notes", with: "half typed")
    expect(page).to have_current_path("/o/maunder-hill/survey/trees/#{standing.id}?from=#{(before + 30) % 360}")
    # A key goes on from there, and the link pressed by keyboard keeps the focus.
    now("document.querySelector('[data-key=\",\"]').focus()")
    page.driver.browser.keyboard.type(:Enter)
    expect(page).to have_css("#drawing[data-from='#{(before + 45) % 360}']")
    expect(now("document.activeElement.dataset.key")).to eq ","
  end

  it "opens where no tag lies over another, and reaches up to the tree's height" do
    tags = now("[...document.querySelectorAll('svg.elevation a.tag .edge')].map((e) => " \
               "e.getBoundingClientRect().toJSON())")
    expect(tags.size).to eq 8
    tags.combination(2) do |a, b|
      expect(a["left"] >= b["right"] || b["left"] >= a["right"] || a["top"] >= b["bottom"] || b["top"] >= a["bottom"])
        .to be true
    end
    letters = now("[...document.querySelectorAll('svg.elevation text')].map((e) => parseFloat(getComputedStyle(e)" \
                  ".fontSize) * e.getScreenCTM().a)")
    expect(letters.min).to be >= 12
    page.current_window.resize_to(1024, 768)
    expect(now("[...document.querySelectorAll('svg.elevation text')].map((e) => parseFloat(getComputedStyle(e)" \
               ".fontSize) * e.getScreenCTM().a)").min).to be >= 12
  end
end
