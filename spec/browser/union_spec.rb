# frozen_string_literal: true

RSpec.describe "Touching the union" do
  let!(:here) { demo }
  let(:graft) { here.grafts.find { |each| each.limb.label == "A7 C" } }

  before do
    sign_in person(grafter: here)
    page.current_window.resize_to(1280, 800)
    visit "/o/maunder-hill/tend/grafts/#{graft.id}"
  end

  def part(name) = find(".part[data-part='#{name}']")
  # In the middle of what can be pressed of a part.
  def press(name, times = 1)
    hit = box(".part[data-part='#{name}'] .hit, .part[data-part='#{name}'] .tape")
    x, y = hit["left"] + hit["width"] / 2, hit["top"] + hit["height"] / 2
    times.times { page.driver.browser.mouse.click(x: x, y: y) }
  end
  def seen = Vestry::Records::Visit.where(graft_id: graft.id).order(:id).last

  it "steps each part through its states, says at once what it means, and records what was pressed alone" do
    expect(box(".keep-bar .go")["bottom"]).to be <= 800
    expect(part("callus")).to match_css(".unseen", wait: 0)
    press "callus", 2
    expect(part("callus")["aria-label"]).to eq "callus some"
    press "buds"
    expect(page).to have_css("#meaning .answer", text: "It has knit and sleeps.")
    # What is only pressed is not kept.
    expect(Vestry::Records::Visit.where(graft_id: graft.id, callus: "some").count).to eq 0
    press "seal", 2
    expect(page).to have_css("#meaning", text: "Mend the seal today")
    click_button "Record this visit"
    expect(page).to have_css("#answer .answer", text: "It has knit and sleeps.")
    expect(seen).to have_attributes(callus: "some", buds: "asleep", seal_state: "cracked", wrap_state: nil,
                                    stock_shoots: nil, pests: nil, longest_shoot_mm: nil)
  end

  it "is under the hand again after a visit was undone" do
    press "callus", 2
    click_button "Record this visit"
    expect(page).to have_css("#answer .answer")
    find("form.undo").click_button "Undo"
    expect(page).to have_no_css("#answer .answer", text: "knit")
    press "buds"
    expect(part("buds")["aria-label"]).to eq "buds asleep"
    click_button "Record this visit"
    expect(page).to have_css("#answer", text: "What the visit of 18 May means")
    expect(seen).to have_attributes(callus: nil, buds: "asleep")
  end

  it "follows what is typed in words" do
    find("summary", text: "In words").click
    fill_in "Longest shoot", with: "12 cm"
    find_field("Longest shoot").send_keys(:tab)
    expect(page).to have_css(".pull[aria-valuenow='120']")
  end

  it "comes round to not looked at, by keys as by hand" do
    now("document.querySelector('.part[data-part=wrap]').focus()")
    keys = page.driver.browser.keyboard
    labels = (0..3).map do
      keys.type(:Enter)
      part("wrap")["aria-label"]
    end
    expect(labels).to eq ["tape sound", "tape loose", "tape biting", "tape not looked at"]
    expect(part("wrap")).to match_css(".unseen")
  end

  it "measures a shoot by pulling it up the ruler, and knows which stick is dead" do
    pull = box("#union .pull circle")
    mouse = page.driver.browser.mouse
    mouse.move(x: pull["left"] + pull["width"] / 2, y: pull["top"] + pull["height"] / 2)
    mouse.down
    half = (box("#union .ruler > path")["bottom"] + box("#union .ruler > path")["top"]) / 2
    mouse.move(x: pull["left"] + 11, y: half, steps: 5)
    mouse.up
    expect(find("#f-longest_shoot", visible: :all).value.to_i).to be_within(4).of(100)
    find(".stick-of[data-stick='2'] .stick").click
    expect(find(".stick-of[data-stick='2']")["aria-pressed"]).to eq "true"
    click_button "Record this visit"
    expect(page).to have_css("#answer")
    expect(seen).to have_attributes(sticks_alive: 1, dead_sticks: [2])
    expect(seen.longest_shoot_mm).to be_within(4).of(100)
    # It stays dead in the drawing.
    expect(page).to have_css(".stick-of.is-dead[data-stick='2']").and have_no_css(".stick-of.is-dead[data-stick='1']")
  end

  it "goes on to the next graft that is due, saying what this one means" do
    press "callus", 3
    click_button "Record, and on to"
    expect(page).to have_css(".notice", text: /\AA7 C: /)
    expect(first(".docket h2").text).not_to include "A7 C"
    expect(seen.callus).to eq "full"
  end
end
