# frozen_string_literal: true

RSpec.describe "Tending a graft" do
  let!(:here) { demo }

  def on(day) = allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
  def tap(name, words) = find("fieldset.stages", text: /\A#{name}/).find("label.stage", text: /\A#{words}\z/).click

  # The browser scrolls when all is loaded.
  def soon(&check) = page.document.synchronize(nil, errors: [RSpec::Expectations::ExpectationNotMetError], &check)

  before { sign_in person(steward: here) }

  it "opens its list for paper, with nothing to fill in beside it, and shuts it again" do
    visit "/o/maunder-hill/tend"
    list = find("#as-a-list")
    said = %w[beforeprint afterprint].map do |moment|
      page.execute_script("dispatchEvent(new Event(arguments[0]))", moment)
      list[:open].to_s
    end
    expect(said).to eq %w[true false]
    page.driver.browser.page.command("Emulation.setEmulatedMedia", media: "print")
    page.execute_script("dispatchEvent(new Event('beforeprint'))")
    expect(page).to have_css("#as-a-list .agenda th[scope=row]", minimum: 5)
    expect(page).to have_no_css(".walking > aside").and have_no_css("#as-a-list :is(input, select, button)")
  ensure
    page.driver.browser.page.command("Emulation.setEmulatedMedia", media: "")
  end

  it "records a visit by tapping drawings, is told what it means, and sees the agenda change" do
    page.current_window.resize_to(390, 844)
    visit "/o/maunder-hill/tend"
    find("summary", text: "All of it, as a list").click
    expect(page).to have_css("table.agenda tr", text: /A7 C.*First look/m)
    first("form[action$='/tend/tasks'] a", exact_text: "A7 C").click
    tap "Buds", "asleep"
    tap "Callus", "some"
    tap "Seal", "cracked"
    click_button "Record this visit"
    expect(page).to have_css("#answer .answer", text: "It has knit and sleeps.")
    expect(page).to have_css("#answer", text: "Mend the seal today")
    # The answer is in sight, and not below what was pressed.
    soon do
      expect(page.evaluate_script("document.querySelector('#answer').getBoundingClientRect().top"))
        .to be_between(-1, 844)
    end
    visit "/o/maunder-hill/tend?span=season"
    expect(page).to have_no_css("form[action$='/tend/tasks'] tr", text: /A7 C.*First look/m)
    row = find("form[action$='/tend/tasks'] tr", text: /A7 C.*Mend the seal/m)
    stood = page.evaluate_script("window.scrollTo(0, 300), window.scrollY")
    expect(stood).to be > 100
    page.execute_script("arguments[0].click()", row.find("button", text: "Done"))
    expect(page).to have_content("A7 C: mend the seal is done.")
    # The hand stays where it was.
    soon { expect(page.evaluate_script("window.scrollY")).to eq stood }
    expect(page).to have_no_css("form[action$='/tend/tasks'] tr", text: /A7 C.*Mend the seal/m)
  end

  it "plans a failed stub again in one step" do
    graft = here.grafts.find { |each| each.limb.label == "A7 E" }
    visit "/o/maunder-hill/tend/grafts/#{graft.id}"
    find("summary", text: "In words").click
    tap "Buds", "dead"
    choose "it failed"
    click_button "Record this visit"
    expect(page).to have_css("#answer .answer", text: /Dead\. Bark slips until about/)
    expect(page).to have_css("#why-h")
    click_button "Plan it again: plan, wood and day"
    expect(page).to have_content("A7 E is to be worked again in 2026")
    visit "/o/maunder-hill/wood"
    expect(page).to have_content("Evensong")
    visit "/o/maunder-hill/slip"
    expect(page).to have_content("A7 E")
  end

  it "puts many off at once, says which is scion, and shows the wind's curve" do
    visit "/o/maunder-hill/tend?span=season"
    all("td.tick label.choice").first(2).each(&:click)
    fill_in "Put off until", with: Date.new(2026, 6, 2)
    fill_in "because", with: "mud"
    click_button "Put off"
    expect(page).to have_content("2 tasks put off.")
    person("Tam Reddaway", grafter: here)
    visit "/o/maunder-hill/tend?span=season"
    first = all("td.tick label.choice").first(2).each(&:click).map do |label|
      label.find("input")[:value][/graft:(\d+)/, 1].to_i
    end
    select "Tam Reddaway", from: "Give all that follows there to"
    click_button "Give"
    expect(page).to have_content("Given to Tam Reddaway")
    expect(Vestry::Records::Graft.where(id: first).select_map(:tended_by).uniq).to eq ["Tam Reddaway"]
    grown = here.grafts.find { |each| each.fate == "took" && each.tallies.any?(&:growth_mm) }
    on(Date.new(2026, 5, 19))
    visit "/o/maunder-hill/tend/grafts/#{grown.id}"
    find("summary", text: "Wind and weight").click
    expect(page).to have_css("svg.safe-curve .today")
    click_link "Which is scion, which is stock"
    expect(page).to have_content("Never cut:").and have_css("svg.scion-stock")
  end
end
