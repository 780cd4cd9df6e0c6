# frozen_string_literal: true

RSpec.describe "The front page of an orchard" do
  let!(:here) { demo }

  before { page.current_window.resize_to(1280, 800) }


  it "is where one lands: what matters, its trees marked, and a button that does it, under a frame of 96 px" do
    sign_in_by_hand person(steward: here)
    expect(page).to have_current_path("/o/maunder-hill/today")
    expect(page).to have_css("h1.now", text: /\AA2 E moved before it can have knit/)
    expect(box("header.top")["height"]).to be <= 96
    expect(box(".docket a.go")["bottom"]).to be <= 800
    # A2 is in trouble; nothing is due on a tree that nobody planned.
    expect(page).to have_css("a.tree.wanted[aria-label^='A2,']").and have_no_css("a.tree.wanted[aria-label^='B7,']")
    click_link "Walk what is due"
    expect(page).to have_current_path("/o/maunder-hill/tend").and have_css("h1.now", text: "A2 E moved")
  end

  it "has each station in the year, the one that is open marked, reached by a click, a key, and the orchard's name" do
    sign_in_by_hand person(steward: here)
    %w[Survey Plan Wood Slip Graft Tend Tally].each { |name| expect(page).to have_css(".stations a", text: name) }
    within("nav.year") { click_link "Wood" }
    expect(page).to have_css(".stations a[aria-current]", text: "Wood", count: 1)
    expect(page).to have_css(".year-band .rule.top")
    find("h1.now").click
    page.driver.browser.keyboard.type("6")
    expect(page).to have_css(".stations a[aria-current]", text: "Tend")
    click_link "Maunder Hill"
    expect(page).to have_current_path("/o/maunder-hill/today").and have_no_css(".stations a[aria-current]")
    # Each word lies on its own window: no link under another.
    overlaps = page.evaluate_script(<<~JS)
      (() => { const all = [...document.querySelectorAll(".stations a")].map((a) => a.getBoundingClientRect());
        return all.flatMap((a, i) => all.slice(i + 1).map((b) => Math.min(a.right, b.right) - Math.max(a.left, b.left) > 1
          && Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 1)).filter(Boolean).length; })()
    JS
    expect(overlaps).to eq 0
  end

  it "names the day that is, when today is no day to graft" do
    Vestry::DB[:weather_days].where(orchard_id: here.id) { day >= Date.new(2026, 5, 18) }.delete
    [[18, 20.0], [19, 0.0]].each do |day, rain|
      Vestry::DB[:weather_days].insert(orchard_id: here.id, day: Date.new(2026, 5, day), min_c: 9.0, max_c: 18.0,
                                       rain_mm: rain, gust_ms: 3.0, forecast: true)
    end
    sign_in_by_hand person(steward: here)
    expect(page).to have_link("The sheet for Tuesday 19 May", href: "/o/maunder-hill/graft/sheet?on=2026-05-19")
    expect(find("svg.day-strip")["aria-label"]).to include("Mon 18 May wait", "Tue 19 May good")
  end

  it "tells what others did since one was last here, and not what one did oneself" do
    me, tam = person(steward: here), person("Tam Verity", grafter: here)
    sign_in me
    tree = here.trees_dataset.first(row: "B", number: 7)
    [[tam, "leans"], [me, "stands"]].each do |who, note|
      Vestry::Deeds::Ledger.change(tree.refresh, { notes: note }, by: who.name)
    end
    Vestry::DB[:history].where(who: me.name).update(account_id: me.id)
    visit "/o/maunder-hill/today"
    within("section[aria-labelledby=changes-h]") do
      expect(page).to have_content("Tam Verity: 1 tree changed").and have_no_content("Orla Finch")
    end
  end

  it "pictures each orchard of someone with several, with its one sentence, and leads into it" do
    other = orchard(name: "Low Field")
    me = person(steward: here)
    Vestry::Records::Membership.create(orchard_id: other.id, account_id: me.id, role: "viewer")
    sign_in_by_hand me
    expect(page).to have_css(".orchards svg.orchard-map", count: 2)
    expect(find(".orchards li", text: "Low Field")).to have_content("No tree stands here yet")
    find(".orchards a", text: "Maunder Hill").click
    expect(page).to have_current_path("/o/maunder-hill/today")
  end
end
