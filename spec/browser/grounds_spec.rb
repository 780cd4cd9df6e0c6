# frozen_string_literal: true

RSpec.describe "The orchard's grounds" do
  let!(:here) { demo }
  let(:bare) { here.trees_dataset.first(row: "B", number: 1) }

  before { sign_in person(steward: here) }

  def seek(words) = find("#find").set(words).send_keys(:enter)
  def press(key) = page.driver.browser.keyboard.type(key)

  it "turns its seasons and its measures when it is moved" do
    visit "/o/maunder-hill/settings"
    fill_in "Latitude, °", with: "-43.2"
    choose "inches and feet"
    choose "horses (to 2.30 m)"
    click_button "Keep these settings"
    expect(page).to have_css("h1.now", text: "lies south").and have_css("h1.now", text: "begins in May")
    visit "/o/maunder-hill/survey/trees/#{bare.id}?limb=#{bare.limbs.first.id}"
    expect(find("svg.elevation").text(:all)).to include("horses reach 7 ft 7 in")
    expect(first("svg.year-band .month").text).to eq "May"
  end

  it "says at its field what a setting may be" do
    visit "/o/maunder-hill/settings"
    fill_in "Latitude, °", with: "99"
    fill_in "Name", with: ""
    click_button "Keep these settings"
    expect(all(".field.wrong label").map(&:text)).to include("Name", "Latitude, °")
    expect(page).to have_field("Latitude, °", with: "99")
  end

  it "overrules a number from its working, with who and why, and takes it back" do
    visit "/o/maunder-hill/plan/trees/#{bare.id}?limb=#{bare.limbs.first.id}"
    score = all(".ranking .working summary").first.text.to_i
    all(".ranking .working summary").first.click
    expect(page).to have_content(/100 × stock fit .* = #{score}\.\d/)
    visit "/o/maunder-hill/rulebook/entry/species.apple.take"
    fill_in "This orchard's own value", with: "0.45"
    click_button "Overrule"
    expect(page).to have_content("say why")
    fill_in "Why", with: "A cold hill"
    click_button "Overrule"
    expect(page).to have_content("Overruled by Orla Finch on 18 May 2026: A cold hill")
    visit "/o/maunder-hill/plan/trees/#{bare.id}?limb=#{bare.limbs.first.id}"
    expect(all(".ranking .working summary").first.text.to_i).to be_between(1, score - 5)
    visit "/o/maunder-hill/rulebook/entry/species.apple.take"
    click_button "Back to the rulebook's own"
    expect(page).to have_content("stands as it ships")
  end

  it "keeps what was changed, and brings back what was taken away" do
    limb = bare.limbs.first
    visit "/o/maunder-hill/survey/trees/#{bare.id}?limb=#{limb.id}"
    find("summary", text: "Measure again").click
    fill_in "Girth", with: "20 cm"
    click_button "Keep these measures"
    find("summary", text: "Measure again").click
    click_link "Take this limb away"
    expect(page).to have_css("h1.now", text: "1 limb out")
    click_button "Take it away"
    expect(page).to have_css("h1.now", text: "Every change is kept")
    expect(page).to have_content("limb #{limb.label}, changed")
    expect(page).to have_content("girth: #{limb.girth_mm.round} mm → 200 mm")
    click_button "Bring back"
    expect(page).to have_no_button("Bring back")
    expect(here.limb!(limb.id).girth_mm).to eq 200
  end

  it "finds a tree, a limb, a variety misspelled and a person" do
    visit "/o/#{here.slug}/survey"
    seek "b1 a"
    expect(page).to have_css(".docket h2", text: "B1 A")
    seek "skilark rusett"
    expect(page).to have_content("Skylark Russet")
    seek "Redaway"
    expect(page).to have_css("td", text: "Tam Reddaway")
    seek "zzzz <b>"
    expect(page).to have_css("h1.now", exact_text: "Nothing like “zzzz <b>” is known here.")
  end

  it "answers keys, and never while someone types" do
    visit "/o/maunder-hill/survey/trees/#{bare.id}?limb=#{bare.limbs.first.id}"
    press("w")
    expect(page).to have_css("details.working[open]", minimum: 2)
    from = find("#drawing")["data-from"].to_i
    press(".")
    expect(page).to have_css("#drawing[data-from='#{(from - 15) % 360}']")
    press(",")
    expect(page).to have_css("#drawing[data-from='#{from}']")
    # Walking on changed the drawing alone: what was opened stays open.
    expect(page).to have_css("details.working[open]", minimum: 2)
    press("?")
    expect(page).to have_css("dialog[open]", text: "walk round the tree")
    click_button "Close"
    press("/")
    press("2")
    expect(page).to have_field("find", with: "2")
    find("h1.now").click
    press("6")
    expect(page).to have_css("[aria-current=page]", text: "Tend")
  end

  it "invites by a link that is shown once" do
    visit "/o/maunder-hill/people"
    fill_in "For whom", with: "A helper"
    click_button "Make a link"
    link = find("code").text
    click_button "Revoke"
    visit URI(link).path
    expect(page).to have_css("h1.now", text: "used, revoked or is too old")
  end
end
