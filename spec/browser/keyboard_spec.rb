# frozen_string_literal: true

RSpec.describe "By keyboard alone" do
  let!(:here) { orchard }
  let!(:kind) { variety(here, "Harbour Pippin") }

  before do
    sign_in person(steward: here)
    visit "/o/#{here.slug}/survey"
  end

  def press(*keys) = page.driver.browser.keyboard.type(*keys)
  def focused
    page.evaluate_script("(() => { const at = document.activeElement; return (at.labels && at.labels[0] ? " \
                         "at.labels[0].innerText : at.innerText || at.ariaLabel || at.name || at.tagName).trim(); })()")
  end

  # A key that means something to a page does so once all its scripts have run.
  def press_when_ready(*keys)
    page.evaluate_async_script("const done = arguments[0]; document.readyState === 'complete' ? done() : " \
                               "addEventListener('load', () => done());")
    press(*keys)
  end

  # Tabs on until what is asked for has the focus.
  def tab_to(words)
    80.times { press(:Tab) && (return if words === focused) }
    raise "#{words.inspect} is not reached; the focus is on #{focused.inspect}"
  end

  it "adds a tree, surveys it, plans a limb, logs its graft and records a visit" do
    press_when_ready("n")
    expect(page).to have_field("Row")
    tab_to("Row")
    press("A", :Tab, "1")
    tab_to("Species of the stock")
    press("Apple")
    tab_to("Add")
    press(:Enter)
    expect(page).to have_content("A1 stand")
    press_when_ready("/")
    expect(focused).to match(/A3, a row|Find|q/)
    press("A1", :Enter)
    expect(page).to have_field("Limb lines")
    tab_to("Limb lines")
    press("A n girth 21cm long 2400 from 900 up 45", :Enter, "B s girth 230 long 2500 from 950 up 40")
    tab_to("Keep these limbs")
    press(:Enter)
    expect(page).to have_content("2 limbs kept on A1")
    tab_to("Plan A1")
    press(:Enter)
    expect(page).to have_css(".docket h1, .docket h2", text: "A1")
    tab_to("A")
    press(:Enter)
    expect(page).to have_field("Becomes")
    tab_to("Becomes")
    press("Harbour")
    tab_to("Keep this plan")
    press(:Enter)
    expect(find("h1.now").text).to include("A1 A is to become Harbour Pippin")
    find("h1.now").click
    press_when_ready("5")
    expect(page).to have_link("Log it")
    tab_to("Log it")
    press(:Enter)
    tab_to("Log this graft")
    press(:Enter)
    expect(page).to have_content("Which is scion, which is stock")
    tab_to("buds not looked at")
    press(:Enter)
    tab_to("Record this visit")
    press(:Enter)
    expect(page).to have_css("#answer .answer")
    expect(here.grafts.first.visits.map(&:buds)).to eq ["asleep"]
  end
end
