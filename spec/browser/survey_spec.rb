# frozen_string_literal: true

require "tmpdir"

RSpec.describe "Surveying" do
  let!(:here) { orchard(name: "Trial Hill") }

  before { sign_in person(steward: here) }

  def tags = all("svg.elevation a.tag text").map(&:text)

  def bare_tree
    tree(here, row: "C", number: 7, form: "bush").tap { Vestry::Records::Places.settle(here) }
  end

  it "adds a row, then surveys a whole tree from limb lines, drawn as they are typed" do
    visit "/o/#{here.slug}/survey"
    expect(page).to have_css("h1.now", text: "No tree stands here yet")
    click_link "Add trees"
    fill_in "Row", with: "c"
    fill_in "Number", with: "5"
    fill_in "To number", with: "8"
    select "Apple", from: "Species of the stock"
    click_button "Add"
    expect(page).to have_content("C5 to C8 stand in the record")
    find("a.tree[aria-label^='C7,']").click

    fill_in "Limb lines",
            with: "A n girth 21 cm long 2400 from 900 up 45\nB e girth 220 long 2.5m from 950 up 40 flat s\nB1 on B " \
                  "120 girth 90 from 1400 long 1100 up 30\nC sw girth 190 from 880 up 50 leaning"
    expect(page).to have_css(".reads .good", count: 3)
    expect(find(".reads .bad").text).to include("line 4", "leaning", "is not a word of a limb line")
    expect(page).to have_css("#drawing svg.elevation .limb", count: 3)
    # What is understood grows under the hand's place, and never under the hand.
    button, understood = ["form.lines button.go", "form.lines .echo"].map do |css|
      page.evaluate_script("document.querySelector('#{css}').getBoundingClientRect().toJSON()")
    end
    expect(button["bottom"]).to be <= understood["top"]
    expect(button["top"]).to be > page
      .evaluate_script("document.querySelector('#lines').getBoundingClientRect().bottom")
    click_button "Keep these limbs"
    expect(page).to have_css(".reads .bad", text: "leaning")
    expect(page).to have_content("3 limbs kept on C7")
    # The good lines are kept; the bad one stays in the box, with its word chosen.
    expect(page).to have_field("Limb lines", with: "C sw girth 190 from 880 up 50 leaning")
    chosen = page.evaluate_script("(() => { const box = document.activeElement; return [box.id, " \
                                  "box.value.slice(box.selectionStart, box.selectionEnd)]; })()")
    expect(chosen).to eq %w[lines leaning]
    fill_in "Limb lines", with: find_field("Limb lines").value.sub(" leaning", " crooked")
    click_button "Keep these limbs"
    expect(page).to have_content("1 limb kept on C7")
    expect(tags).to match_array %w[A B B1 C]
    expect(page).to have_content("C length: where to cut is a guess until it is measured")
    expect(page).to have_content("How the head is shared")

    find("svg.elevation a[aria-label^='Limb B,']").click
    expect(page).to have_css("svg.from-above .limb.chosen")
    expect(page).to have_css(".docket h2", text: "C7 B")
    find("h1.now").click
    page.driver.browser.keyboard.type(:Right)
    expect(page).to have_css(".docket h2", text: "C7 B1")
  end

  it "asks about a branch thicker than its limb, and about a girth no limb has, and keeps them when told so" do
    standing = bare_tree
    limb(standing, "A", girth_mm: 200)
    visit "/o/#{here.slug}/survey/trees/#{standing.id}"
    find("summary", text: "Add limbs, a line each").click
    fill_in "Limb lines", with: "A1 on A girth 260 from 500 long 900"
    click_button "Keep these limbs"
    expect(page).to have_content("Is that so? A1 thicker than A")
    check "yes, keep it"
    click_button "Keep these limbs"
    expect(page).to have_content("1 limb kept")
    find("summary", text: "Add limbs, a line each").click
    fill_in "Limb lines", with: "A2 on A girth 60 from 9000\na girth 150"
    click_button "Keep these limbs"
    expect(all(".reads .bad").map(&:text)).to match [/“from” A is 2.40 m long/, /a limb a already/]
  end

  it "surveys on the phone with thumbs: points, slides and types" do
    page.current_window.resize_to(390, 844)
    standing = bare_tree
    visit "/o/#{here.slug}/survey/trees/#{standing.id}"
    find("summary", text: "Add one limb by hand").click
    within(find("form[action$='/limbs']")) do
      fill_in "Tag", with: "D"
      fill_in "Girth", with: "7 1/2 in"
      expect(page).to have_content("= 191 mm")
      find("svg.rose").click(x: 0, y: 30, offset: :center)
      expect(find("#aim-rise").value).to eq ""
      find("#aim-rise").set(60)
      choose "straight", option: "straight"
      click_button "Keep this limb"
    end
    expect(page).to have_css(".docket h2", text: "C7 D")
    made = standing.limbs_dataset.first
    expect([made.bearing_deg, made.rise_deg, made.straight, made.thickness_typed])
      .to match [be_within(6).of(180), 60, "straight", "7 1/2 in"]
    expect(page.evaluate_script("document.documentElement.scrollWidth")).to be <= 391
  end

  it "marks a bare stretch of trunk and draws it" do
    standing = bare_tree
    limb(standing, "A")
    visit "/o/#{here.slug}/survey/trees/#{standing.id}"
    find("summary", text: "Mark a bare stretch").click
    within(find("form[action$='/sites']")) do
      fill_in "Tag", with: "S1"
      fill_in "Faces, °", with: "180"
      fill_in "At", with: "60 cm"
      click_button "Mark it"
    end
    expect(page).to have_css("svg.elevation .site text", text: "S1")
    expect(page).to have_content("S1 600 mm up the trunk, faces S (180°)")
  end

  it "brings trees and their limbs in from files, showing every line's fate first" do
    Dir.mktmpdir do |folder|
      trees = File.join(folder, "trees.csv")
      rows = ["Row;Number;Species;Form;Height_mm", "F;1;apple;bush;3600", "F;2;oak;bush;3600", "F;3;pear;standard;tall"]
      File.write(trees, "\uFEFF#{rows.join("\r\n")}\r\n")
      visit "/o/#{here.slug}/files"
      attach_file "File", trees
      click_button "Read it"
      expect(page).to have_css("h1.now", text: "2 lines of 3 cannot be read")
      expect(all(".reads .bad").map(&:text)).to match [/line 3, F2: column species: “oak” is not known/,
                                                       /line 4, F3: column height_mm: “tall” is not a number/]
      expect(page).to have_no_button("Bring in")

      File.write(trees, "row,number,species,form\nF,1,apple,bush\nF,2,pear,standard\n")
      visit "/o/#{here.slug}/files"
      attach_file "File", trees
      click_button "Read it"
      expect(page).to have_css("td", text: "is added", count: 2)
      expect(here.trees_dataset.count).to eq 0
      click_button "Bring in 2 lines"
      expect(page).to have_css("h1.now", text: "Both lines of trees.csv are in")

      limbs = File.join(folder, "limbs.csv")
      File.write(limbs, "tree,tag,parent,girth_mm,bearing_deg\nF1,A,,210,90\nF1,A1,A,80,120\n")
      visit "/o/#{here.slug}/files"
      attach_file "File", limbs
      choose "limbs"
      click_button "Read it"
      click_button "Bring in 2 lines"
      expect(page).to have_css("h1.now", text: "Both lines of limbs.csv are in")
    end
    side = here.trees_dataset.first(number: 1).limbs.find { |each| each.tag == "A1" }
    expect(side.parent.tag).to eq "A"
  end

  it "moves about the orchard by keys and drags, and filters it" do
    (1..30).each { |number| tree(here, row: "C", number: number, species: number > 25 ? "pear" : "apple") }
    Vestry::Records::Places.settle(here)
    visit "/o/#{here.slug}/survey"
    expect(page).to have_css("a.tree", count: 30)
    page.execute_script("document.querySelector('svg.orchard-map').focus()")
    page.driver.browser.keyboard.type("+", "+", "+")
    expect(page).to have_css(".docket h2", text: /in view, of 30/)
    expect(all("a.tree").size).to be < 30
    expect(page.current_url).to match(/[?&]w=\d/)
    visit page.current_url
    expect(all("a.tree").size).to be < 30
    within(".facets") { click_link "pear" }
    expect(page).to have_css("a.tree", count: 5)
  end

  it "takes a caliper's reading into the field that has the focus" do
    standing = bare_tree
    visit "/o/#{here.slug}/survey/trees/#{standing.id}"
    find("summary", text: "Add one limb by hand").click
    find("summary", text: "Orla Finch").click
    caliper = window_opened_by { find("#caliper-open").click }
    find("form[action$='/limbs'] [name=girth]").click
    within_window(caliper) { click_button "Send" }
    within("form[action$='/limbs']") { expect(page).to have_css("[name=girth]") { |field| field.value == "9.0 mm" } }
  end

  it "keeps a photo, stripped of where it was taken, and refuses what is not one" do
    standing = bare_tree
    Dir.mktmpdir do |folder|
      Vestry::Outside::PhotoStore.name
      picture = Vips::Image.black(60, 40).copy(interpretation: :srgb).mutate do |image|
        image.set_type!(GObject::GSTR_TYPE, "exif-ifd3-GPSLatitude", "50/1 36/1 0/1")
      end
      picture.write_to_file(File.join(folder, "limb.jpg"))
      File.write(File.join(folder, "not.jpg"),
                 "<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>")
      visit "/o/#{here.slug}/survey/trees/#{standing.id}"
      attach_file "A photo", File.join(folder, "not.jpg")
      click_button "Keep this photo"
      expect(page).to have_content("is not a whole photo; JPEG, PNG and WebP are")
      attach_file "A photo", File.join(folder, "limb.jpg")
      fill_in "What it shows", with: "The whole tree"
      click_button "Keep this photo"
      expect(page).to have_css("img[alt='The whole tree']")
    end
    made = graft(limb(standing, "A"))
    seen = Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 5, 10),
                                               buds: "swelling")
    visit "/o/#{here.slug}/survey/trees/#{standing.id}?limb=#{made.limb_id}"
    Dir.mktmpdir do |folder|
      Vips::Image.black(40, 30).write_to_file(File.join(folder, "bud.png"))
      attach_file "A photo of limb A", File.join(folder, "bud.png")
      select "at the visit of 10 May", from: "Taken"
      click_button "Keep this photo"
    end
    expect(page).to have_css(".story .visited img[alt='Photo at the visit of 10 May']")
    expect(Vestry::Records::Photo.where(observation_id: seen.id).count).to eq 1
    whole = Vestry::Records::Photo.first(caption: "The whole tree")
    kept = Vestry::Outside::PhotoStore.read(whole.image["large"])
    image = Vips::Image.new_from_buffer(kept, "")
    expect([image.width, image.get_fields.grep(/GPS/)]).to eq [60, []]
  end
end
