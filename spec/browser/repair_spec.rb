# frozen_string_literal: true

# Two apples that sheep stripped in the snow, from the morning they are found to a year later.
RSpec.describe "A stripped trunk" do
  let!(:here) { demo }

  def on(day) = allow(Vestry::Outside::Clock).to receive(:today).and_return(day)

  before do
    %i[scion_fates wound_visits bridge_scions wound_margins].each { |table| Vestry::DB[table].delete }
    Vestry::DB[:tasks_done].exclude(wound_id: nil).delete
    Vestry::Records::Wound.dataset.delete
    on(Date.new(2026, 1, 19))
    sign_in person(steward: here)
  end

  it "goes from triage to a year later" do
    visit "/o/maunder-hill/repair"
    fill_in "A line for each tree", with: "C10 bark 10%\nC11 girth 505 bark 40% drying\nC12 bark 85%\nB1 girth 3 m"
    expect(page).to have_css(".echo .bad", text: "3.00 m round is not likely for B1")
    click_button "Note these trees"
    expect(page).to have_css(".error", text: "line 4")
    fill_in "A line for each tree", with: "C10 bark 10%\nC11 girth 505 bark 40% drying\nC12 bark 85%"
    click_button "Note these trees"
    expect(all(".triage tbody th").map(&:text)).to eq %w[C10 C11 C12]
    expect(all(".triage .task summary").map(&:text)).to eq ["bridge needed", "bridge needed", "clean and leave"]
    find("button[aria-label='Covered today: C10']").click
    expect(find(".triage tbody tr:first-child th").text).to eq "C11"

    click_link "C10"
    fill_in "Margins, a reading a line", with: "n closed\nne 150 to 400\ne 120 to 455\ns 95 to 40"
    expect(page).to have_css("#unrolled .bad", text: "upper margin (40 mm) is under the lower (95 mm)")
    fill_in "Margins, a reading a line",
            with: "n closed\nne 150 to 400\ne 120 to 455\ns 95 to 440\nw -40 to 430\nnw 170 to 380"
    expect(page).to have_css("#unrolled .answer", text: "99 % of the girth is bare: bridge needed. 10 scions")
    click_button "Keep these measures"
    expect(page).to have_css("svg.unrolled.wide g.scion.planned", count: 10)
    # To scale: the same number of millimetres to the point, across and up.
    drawn = page.evaluate_script("(() => { const svg = document.querySelector('svg.unrolled.wide'); const at = " \
                                 "(sel) => Number(svg.querySelector(sel).getAttribute('cy')); const k = " \
                                 "Number(svg.dataset.scale); return [(at('[data-bearing=\"90.0\"][data-edge=low]') " \
                                 "- at('[data-bearing=\"90.0\"][data-edge=high]')) / k, " \
                                 "svg.querySelector('rect.bark').getBBox().width / k]; })()")
    expect(drawn.map(&:round)).to eq [335, 570]

    before = find("table.scions tbody tr:nth-child(2)").text
    find("button[aria-label='Scion 2: 5 degrees on']").click
    expect(page).to have_no_css("table.scions tbody tr:nth-child(2)", text: before)
    expect(page).to have_content("no shoot long enough").or have_content("are enough")

    on(Date.new(2026, 4, 20))
    visit current_path
    click_link "Log it: bridge it"
    find("label.choice", text: /\A1 at/).click
    fill_in "Thickness of scion 2", with: "9"
    fill_in "Thickness of scion 3", with: "90"
    click_button "Log it"
    expect(page).to have_css(".error", text: "scion 3: “90”, is 90 mm")
    expect(page).to have_field("Thickness of scion 2", with: "9")
    fill_in "Thickness of scion 3", with: "8"
    click_button "Log it"
    expect(page).to have_css("svg.unrolled.wide g.scion.set", count: 9)
    expect(find(".now").text).to include("should have knit by")

    on(Date.new(2026, 5, 14))
    visit current_path
    choose "thin, small, pale"
    find("label.tile", text: /\A4 /).click
    check "Its blossom was stripped"
    click_button "Record it, the rest live"
    expect(page).to have_css("svg.unrolled.wide g.scion.alive", count: 8)
      .and have_css("svg.unrolled.wide g.scion.dead", count: 1)
    expect(page).to have_css(".tasks li.open", text: "Set another for each that died")
    find("a.go", text: "Set another for each that died").click
    find("label.choice", text: "beside the dead 4").click
    click_button "Log it"
    expect(page).to have_css("svg.unrolled.wide g.scion.set", minimum: 1)
    expect(find(".now").text).to match(/C10 holds: 8 of 9 scions live, .*; 1 more is not looked at yet/)
    expect(page).to have_no_css(".tasks li.open", text: "Set another for each that died")
    expect(page).to have_link("Log another scion").and have_no_link("Set another for each that died")
    expect(all("table.scions tbody th").map(&:text)).to eq %w[1 2 3 11 4 5 6 7 8 9 10]

    on(Date.new(2027, 5, 20))
    visit current_path
    find("summary", text: "Record a look at it").click
    choose "full"
    expect(find("label.tile", text: /\A4 /)).to have_css("input:checked", visible: :all)
    click_button "Record it, the rest live"
    expect(page).to have_css(".now", text: /C10 holds: \d+ of \d+ scions live, and they carry \d+ % of the wound/)
    expect(page).to have_css(".story li", minimum: 6)
    expect(page).to have_css(".story li", text: /14 May.*Holds: 8 of 9 live and carry \d+ %\./m)
      .and have_css(".story li", text: /20 May.*Holds: \d+ of 10 live/m)

    visit "/o/maunder-hill/repair"
    expect(find(".triage tr", text: "C10").text).to include("bridged: holds")
    expect(find(".triage tr", text: "C11").text).to include("bridge needed", "19 days")
  end

  it "moves a margin and a scion by dragging, on a phone" do
    wound = Vestry::Records::Wound.create(orchard_id: here.id,
                                          tree_id: here.trees_dataset.first(row: "C", number: 10).id,
                                          found_on: Date.new(2026, 1, 19), girth_mm: 560, cause: "teeth")
    page.current_window.resize_to(390, 844)
    visit "/o/maunder-hill/repair/#{wound.id}"
    click_button "Eight readings to drag"
    expect(page).to have_css("svg.unrolled.narrow circle.grip", count: 16)
    drag = lambda do |selector, dx, dy|
      x, y = page.evaluate_script("(() => { const each = document.querySelector('#{selector}'); " \
                                  "each.scrollIntoView({ block: 'center' }); const box = " \
                                  "each.getBoundingClientRect(); return [box.x + box.width / 2, box.y + box.height " \
                                  "/ 2]; })()")
      mouse = page.driver.browser.mouse
      mouse.move(x: x, y: y).down.move(x: x + dx / 2.0, y: y + dy / 2.0).move(x: x + dx, y: y + dy).up
    end
    # What was typed otherwise stays as it was typed.
    fill_in "Margins, a reading a line", with: "N closed\n90 10 cm to 200.5\nse 99.5 to 180"
    expect(page).to have_css("svg.unrolled.narrow circle.grip", count: 4)
    click_button "Eight readings to drag"
    expect(page).to have_css("svg.unrolled.narrow circle.grip", count: 14)
    drag.call("svg.unrolled.narrow circle[data-bearing=\"90.0\"][data-edge=high]", 0, -30)
    typed = find_field("Margins, a reading a line").value.split("\n")
    expect(typed.values_at(0, 2, 3)).to eq ["N closed", "se 99.5 to 180", "ne 100 to 200"]
    expect(typed[1]).to match(/\Ae 100 to 2[2-9]\d\z/)
    click_button "Keep these measures"
    expect(page).to have_css("svg.unrolled.narrow g.scion.planned", count: 10)
    was = find("table.scions tbody tr:nth-child(3) td:nth-child(2)").text
    drag.call("svg.unrolled.narrow g.scion[data-number=\"3\"] path", 12, 0)
    expect(page).to have_no_css("table.scions tbody tr:nth-child(3) td:nth-child(2)", text: was, exact_text: true)
    expect(Vestry::Records::BridgeScion.where(set_on: nil, hidden_at: nil).count).to eq 10
  end
end
