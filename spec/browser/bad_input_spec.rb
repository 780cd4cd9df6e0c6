# frozen_string_literal: true

RSpec.describe "Bad input is answered at its field" do
  let!(:here) { demo }
  let(:bare) { here.trees_dataset.first(row: "B", number: 1).limbs.first }

  before { sign_in person(steward: here) }

  { "0" => "likely", "-5" => "likely", "abc" => "is not a length", "9999" => "Check the unit" }.each do |girth, words|
    it "says what is allowed when a girth of #{girth} is typed, and keeps what was typed" do
      visit "/o/maunder-hill/survey/trees/#{bare.tree_id}?limb=#{bare.id}"
      find("summary", text: "Measure again").click
      fill_in "Girth", with: girth
      fill_in "Damage", with: "<script>alert(1)</script>"
      click_button "Keep these measures"
      expect(page).to have_css(".field.wrong .error", text: words)
      expect([find_field("Girth").value, find_field("Damage").value]).to eq [girth, "<script>alert(1)</script>"]
      expect(bare.reload.girth_mm).to be > 100
    end
  end

  it "reads what was typed and left before the page was ready to read it" do
    visit "/o/maunder-hill/survey/trees/#{bare.tree_id}?limb=#{bare.id}"
    find("summary", text: "Measure again").click
    page.execute_script(<<~JS, find_field("Girth"))
      const field = arguments[0];
      field.focus();
      field.value = "214 mm";
      field.dispatchEvent(new Event("input", { bubbles: true }));
      field.blur();
    JS
    expect(page).to have_css("output", text: "= 214 mm")
  end

  it "moves nothing under the thumb when what was typed is no length" do
    visit "/o/maunder-hill/survey/trees/#{bare.tree_id}?limb=#{bare.id}"
    find("summary", text: "Measure again").click
    place = "arguments[0].getBoundingClientRect().top + scrollY"
    top = -> { page.evaluate_script(place, find_button("Keep these measures")) }
    before = top.call
    fill_in "Girth", with: "214 mm"
    expect(page).to have_css("output", text: "= 214 mm")
    fill_in "Length", with: "abc"
    fill_in "measured at", with: "a hand and a half"
    expect(page).to have_css("output", text: "“abc” is not a length; write it as 220, 22 cm or 1.3 m")
    expect(page).to have_css("output", text: "“a hand and a half” is not a length")
    expect(top.call).to eq before
  end

  it "brings the field that was refused into sight on a phone" do
    page.current_window.resize_to(390, 844)
    visit "/o/maunder-hill/survey/trees/#{bare.tree_id}"
    find("summary", text: "Add one limb by hand").click
    form = find("#aim-bearing").find(:xpath, "ancestor::form")
    within(form) do
      fill_in "Tag", with: "Z"
      fill_in "Girth", with: "200"
      fill_in "Points to, °", with: "sideways"
      click_button "Keep this limb"
    end
    wrong = find(".field.wrong .error", text: "a compass point such as NE, or degrees from 0 to 360")
    sight = -> { page.evaluate_script("arguments[0].getBoundingClientRect().top", wrong) }
    page.document.synchronize(nil, errors: [RSpec::Expectations::ExpectationNotMetError]) do
      expect(sight.call).to be_between(0, 800)
    end
    expect(find("#aim-bearing").value).to eq "sideways"
  end

  it "tells the second of two people who measure a limb at once, and lets them keep theirs" do
    visit "/o/maunder-hill/survey/trees/#{bare.tree_id}?limb=#{bare.id}"
    find("summary", text: "Measure again").click
    fill_in "Girth", with: "200"
    Vestry::Deeds::MeasureLimb.call(bare, { girth_mm: 190 }, by: "Tam Reddaway")
    # What was typed is echoed under its field, and moves the button.
    expect(page).to have_content("= 200 mm")
    click_button "Keep these measures"
    expect(page).to have_content("changed meanwhile to 190; yours was 200")
    click_button "Keep these measures"
    expect(page).to have_css("dd", text: "200 mm")
  end

  it "keeps everything typed when a graft cannot be logged, and logs it once" do
    visit "/o/maunder-hill/graft/limbs/#{bare.id}"
    select "Skylark Russet", from: "Variety"
    select "Four-flap graft", from: "Method"
    fill_in "Stub across", with: "60"
    # How it is understood is said below the field, and moves what stands under it.
    expect(page).to have_content("= 60 mm")
    fill_in "Who", with: "Tam Reddaway"
    fill_in "Day", with: Date.new(2027, 1, 1)
    click_button "Log this graft"
    expect(page).to have_content("lies in the future")
    expect(page).to have_field("Who", with: "Tam Reddaway")

    fill_in "Day", with: Date.new(2024, 4, 1)
    click_button "Log this graft"
    expect(page).to have_content("before the limb was surveyed")

    fill_in "Day", with: Date.new(2026, 5, 10)
    click_button "Log this graft"
    expect(page).to have_content("Four-flap graft works from 10 mm to 30 mm; this stub is 60 mm")
    fill_in "Kept against the rulebook because", with: "trying it for the students"
    form = find_button("Log this graft").find(:xpath, "ancestor::form")
    page.execute_script("sessionStorage.sent = new URLSearchParams(new FormData(arguments[0])).toString()", form)
    click_button "Log this graft"
    expect(page).to have_css("main", text: "trying it for the students")

    # The same sent once more, as a browser does that is asked to.
    again = page.evaluate_async_script("fetch(arguments[0], { method: 'POST', headers: { 'content-type': " \
                                       "'application/x-www-form-urlencoded' }, body: sessionStorage.sent " \
                                       "}).then((a) => arguments[1](a.status))",
                                       "/o/maunder-hill/graft/limbs/#{bare.id}")
    expect(again).to eq 200
    expect(bare.grafts_dataset.count).to eq 1
  end
end
