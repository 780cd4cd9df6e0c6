# frozen_string_literal: true

RSpec.describe "Stub by stub, in the hand" do
  let!(:here) { demo }
  let(:sheet) { Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY) }
  let(:stubs) { sheet.cards.map(&:limb) }
  let(:grafts) { Vestry::Records::Graft.where(grafted_on: World::TODAY) }

  before do
    sign_in person(grafter: here)
    page.current_window.resize_to(390, 844)
  end

  def open_walk
    visit "/o/maunder-hill/graft/stubs"
    expect(page).to have_css("article.stop", count: 1)
  end

  # What is kept goes out at once, not after the moment in which it can be undone.
  def no_holding = now("document.querySelectorAll('[data-hold]').forEach((form) => { form.dataset.hold = '0.001'; })")
  def press(label) = find("button[aria-label='#{label}']").click
  def scrolled = now("[window.scrollY, document.documentElement.scrollHeight > window.innerHeight]")

  it "logs six stubs with two presses each and no scrolling, and each is there once" do
    open_walk
    no_holding
    first = stubs.first(6)
    first.each_with_index do |limb, i|
      expect(page).to have_css("article.stop h2", text: limb.label)
      expect(page).to have_css("#stop-count", text: "stub #{i + 1} of")
      expect(scrolled).to eq [0, false]
      press "Set: #{limb.label}"
      click_button "cleanly"
    end
    # One that a busy line did not take is sent again after a while.
    expect(page).to have_css("[data-outbox-line]", text: "6 sent", wait: 60)
    expect(grafts.select_order_map(:limb_id)).to eq first.map(&:id).sort
    expect(grafts.select_map(:bark_slip).uniq).to eq ["clean"]
    one = grafts.first(limb_id: first[1].id)
    card = sheet.cards[1]
    expect([one.technique, one.variety_id]).to eq [card.row.technique, card.row.variety_id]
  end

  it "asks how bark lifted of what goes under bark alone" do
    one = stubs.first
    Vestry::Records::PlanLimb.first(limb_id: one.id).update(technique: "cleft", sticks: 1)
    open_walk
    no_holding
    expect(page).to have_css("article.stop h2", text: one.label)
    press "Set: #{one.label}"
    expect(page).to have_no_content("How did the bark lift?")
    click_button "It is set"
    expect(page).to have_css("[data-outbox-line]", text: "1 sent", wait: 60)
    expect(grafts.select_map([:limb_id, :technique, :bark_slip])).to eq [[one.id, "cleft", nil]]
  end

  it "begins within 110 px, with letters in its drawing of 14 px or more, and keeps every target 44 px high" do
    open_walk
    expect(box("article.stop:not([hidden]) h2")["top"]).to be <= 110
    sizes = now("[...document.querySelectorAll('article.stop:not([hidden]) svg text')].map((text) => " \
                "parseFloat(getComputedStyle(text).fontSize) * text.getScreenCTM().a)")
    expect(sizes.min).to be >= 14
    press "Set: #{stubs.first.label}"
    small = now("[...document.querySelectorAll('article.stop:not([hidden]) button, .thumb a')].map((each) => " \
                "[each.textContent, each.getBoundingClientRect().height]).filter(([, high]) => high > 0 && high < 44)")
    expect(small).to eq []
    expect(box("article.stop:not([hidden]) .panel.open")["top"]).to be > 0
  end

  it "records a visit of swelling buds in three presses, without scrolling" do
    graft = Vestry::Records::Agenda.new(here, World::TODAY).due.reject(&:wound?).first.of
    visit "/o/maunder-hill/tend/grafts/#{graft.id}"
    expect(page).to have_css("#union .part[data-part='buds'].unseen")
    buds = middle("#union .part[data-part='buds'] path")
    mouse = page.driver.browser.mouse
    mouse.click(x: buds[0], y: buds[1])
    expect(page).to have_no_css("#union .part[data-part='buds'].unseen")
    wait = middle("#visit-form .verdicts label:nth-of-type(2)")
    mouse.click(x: wait[0], y: wait[1])
    expect(page).to have_css("#visit-form input[name=verdict][value=wait]:checked", visible: :all)
    button = middle("#visit-form .keep-bar button:last-child")
    expect([wait[1] < 844, button[1] < 844, now("window.scrollY")]).to eq [true, true, 0]
    mouse.click(x: button[0], y: button[1])
    expect(page).to have_css("#answer", text: "What the visit of 18 May means")
    expect(Vestry::Records::Visit.where(graft_id: graft.id).order(:id).last)
      .to have_attributes(buds: "swelling", verdict: "wait", callus: nil, seal_state: nil)
  end

  it "does a task in one press, shows the next one, and takes it back" do
    items = Vestry::Web::Walk.new(here, Vestry::Records::Agenda.new(here, World::TODAY)).stops.flat_map(&:items)
    done = Vestry::Records::TaskDone.where(done_on: World::TODAY)
    visit "/o/maunder-hill/tend"
    click_link "One at a time"
    expect(page).to have_css("article.stop", count: 1).and have_css("#stop-count", text: "task 1 of #{items.size}")
    expect(box("article.stop:not([hidden]) h2")["top"]).to be <= 110
    press = ->(words) { find("article.stop:not([hidden]) button", text: words).click }
    # What is done on a page of its own leads there, and is passed here.
    elsewhere = items.index { |item| Vestry::Core::Tend::Rules.done_by(here.rulebook.task(item.task[:rule])).nil? }
    elsewhere.times do |n|
      expect(page).to have_css("article.stop:not([hidden]) a.go")
      press["Not today"]
      expect(page).to have_css("#stop-count", text: "task #{n + 2} of")
      expect(page).to have_css(".undo-bar", text: /\A#{items[n].label}: .* is put off till tomorrow\./)
    end
    press["Did it"]
    expect(page).to have_css("#stop-count", text: "task #{elsewhere + 2} of")
    expect(page).to have_css(".undo-bar", text: /\A#{items[elsewhere].label}: .* is done\./)
    click_button "Undo"
    expect(page).to have_css("#stop-count", text: "task #{elsewhere + 1} of")
    no_holding
    press["Did it"]
    expect(page).to have_css("[data-outbox-line]", text: "#{elsewhere + 1} sent", wait: 20)
    expect(done.where(what: "done").select_map(%i[graft_id key])).to eq [graft_and_key(items[elsewhere])]
    press["Not today"]
    expect(page).to have_css("[data-outbox-line]", text: "#{elsewhere + 2} sent")
    expect(done.where(what: "put-off", until_on: World::TODAY + 1).select_map(%i[graft_id key]))
      .to include graft_and_key(items[elsewhere + 1])
  end

  def graft_and_key(item) = [item.of.id, item.task[:key]]

  it "draws a set of cuts for each stick that goes to a stub, within the width, before what goes wrong" do
    card = sheet.cards.find { |each| each.given.map(&:diameter_mm).uniq.size > 1 }
    visit "/o/maunder-hill/graft/limbs/#{card.limb.id}/cuts"
    expect(all(".cut-set h2").map(&:text)).to eq(card.given.uniq(&:diameter_mm).map.with_index do |each, i|
      "Stick #{i + 1} of #{card.given.uniq(&:diameter_mm).size}: #{each.stick.label}, " \
        "#{each.diameter_mm.to_f.to_s.delete_suffix('.0')} mm"
    end)
    expect(now("document.documentElement.scrollWidth")).to eq 390
    expect(box(".cut-set svg")["width"]).to be <= 358
    expect(box(".cut-set .steps")["top"]).to be < box(".mistakes")["top"]
  end

  it "opens a warmth fan on today, with the coming days in view" do
    visit "/o/maunder-hill/slip"
    find("details summary", text: /\AApple/).click
    place = "document.querySelector('details[open] svg.fan .today').getBoundingClientRect().x"
    page.document.synchronize(10) { now(place).between?(20, 370) || raise(Capybara::ElementNotFound, "not in view") }
    expect(now(place)).to be_between(20, 370)
  end

  it "takes back what was set, as long as it was not sent" do
    open_walk
    press "Set: #{stubs.first.label}"
    click_button "reluctantly"
    expect(page).to have_css(".undo-bar", text: "#{stubs.first.label} is set.")
    expect(page).to have_css("article.stop h2", text: stubs[1].label)
    expect(page).to have_css("[data-outbox-line]", text: "1 waiting")
    click_button "Undo"
    expect(page).to have_css("article.stop h2", text: stubs.first.label)
    expect(page).to have_no_css("[data-outbox-line]", text: "waiting")
    visit current_path
    expect(page).to have_css("article.stop h2", text: stubs.first.label)
    expect(grafts.count).to eq 0
  end

  it "measures by steps of a millimetre, and logs what was measured" do
    open_walk
    limb = stubs.first
    press "Set: #{limb.label}"
    before = find("#stub-#{limb.id} [name=stub]").value.to_f
    3.times { press "Stub of #{limb.label} larger" }
    no_holding
    click_button "not at all"
    expect(page).to have_css("[data-outbox-line]", text: "1 sent")
    expect(grafts.first).to have_attributes(bark_slip: "none", stub_mm: before.floor + 3)
  end

  it "leaves a stub for one of four reasons, and goes on" do
    open_walk
    no_holding
    limb = stubs.first
    press "Leave #{limb.label}"
    click_button "the weather"
    expect(page).to have_css("article.stop h2", text: stubs[1].label).and have_css("[data-outbox-line]", text: "1 sent")
    expect(limb.planned.reload).to have_attributes(undone_on: World::TODAY, undone_why: "weather")
    expect(grafts.count).to eq 0
  end

  # What is left to do on the walk: the first stub alone.
  def leave_the_rest
    stubs.drop(1).each { |limb| Vestry::Deeds::LeaveUndone.call(limb.planned, "weather", by: "Orla", on: World::TODAY) }
  end

  it "says when all are done, and has a stub again whose graft was taken back" do
    leave_the_rest
    open_walk
    no_holding
    press "Set: #{stubs.first.label}"
    click_button "cleanly"
    expect(page).to have_css(".all-set h2", text: "All of them").and have_link("The day's sheet")
    expect(page).to have_css("[data-outbox-line]", text: "1 sent")
    visit current_path
    expect(page).to have_no_css("article.stop")
    Vestry::Deeds::Hide.call(grafts.first, by: "Orla")
    visit current_path
    expect(page).to have_css("article.stop h2", text: stubs.first.label)
  end

  it "has a stub again when what was refused is thrown away" do
    leave_the_rest
    limb = stubs.first
    open_walk
    no_holding
    press "Set: #{limb.label}"
    find("#stub-#{limb.id} [name=stub]").set("3 mm")
    click_button "cleanly"
    expect(page).to have_css(".all-set h2", text: "All of them")
    click_button "Throw away Graft on #{limb.label}"
    expect(page).to have_css("article.stop h2", text: limb.label)
    expect(grafts.count).to eq 0
    press "Leave #{limb.label}"
    click_button "no time"
    expect(page).to have_css(".all-set h2", text: "All of them").and have_css("[data-outbox-line]", text: "1 sent")
    visit current_path
    expect(page).to have_css(".all-set h2", text: "All of them")
  end

  it "steps from what was typed, whatever its unit" do
    open_walk
    limb = stubs.first
    press "Set: #{limb.label}"
    stub = find("#stub-#{limb.id} [name=stub]")
    stub.set("2,5 cm")
    press "Stub of #{limb.label} larger"
    expect(stub.value).to eq "26 mm"
    stub.set("thick")
    press "Stub of #{limb.label} smaller"
    expect(stub.value).to eq "thick"
  end
end
