# frozen_string_literal: true

RSpec.describe "Planning trees" do
  let!(:here) { demo }

  def standing(row, number) = here.trees_dataset.first(row: row, number: number)
  def limb_tag(tag) = find("svg.elevation a.tag[aria-label^='Limb #{tag},'] text")
  def plan_of(tree) = tree.reload.plan.plan_limbs.to_h { |row| [row.limb.tag, row] }

  before { sign_in person(steward: here) }

  it "turns a bush apple over two seasons: compared, chosen, changed by hand, drawn before and after" do
    apple = standing("B", 7)
    visit "/o/maunder-hill/plan/trees/#{apple.id}"
    within("section[aria-labelledby='pace-h']") do
      expect(all("svg.decade").size).to eq 3
      expect(page).to have_content("Crop forgone").and have_content("Least head, in autumn")
      click_button "Choose 2 seasons"
    end
    expect(page).to have_content("B7 is to be changed over 2 seasons")
    expect(all(".column h3").map(&:text)).to eq %w[2026 2027 2028]
    # The last year has none: it is not waited for.
    before = all(".column").map { |column| column.all(".token", wait: 0).map { |token| token.text[/[A-F]/] } }
    expect(before.first.size).to eq 2

    moved = before.first.first
    find("button[aria-label='#{moved} to 2027']").click
    token = ".token[data-limb='#{apple.limbs.find { |limb| limb.tag == moved }.id}']"
    expect(page).to have_css(".column[data-season='2027'] #{token}")
    expect(plan_of(apple)[moved]).to have_attributes(role: "later", season: 2027)
    find("button[aria-label='#{moved} to 2026']").click
    expect(page).to have_css(".column[data-season='2026'] #{token}")

    expect(page).to have_no_css("svg.elevation .tag.coming")
    click_link "after 2027"
    expect(page).to have_css("svg.elevation .tag.coming", count: 4)
    click_link "as it stands"

    limb_tag(moved).click
    start = find("#place .at").text
    scores = all("#methods .num summary").map(&:text)
    find("#slide").send_keys(*[:right] * 30)
    expect(page).to have_css("#place[data-at='#{find('#slide').value.to_f}']")
    expect(find("#place .at").text).not_to eq start
    # The cursor, the bars' line, the figure beside it and the scores went with it.
    expect(page).to have_css(".at-cut", exact_text: find("#place .at").text)
    share = (find("#slide").value.to_f / find("#rule")["data-length"].to_f * 100).round(1)
    expect([find(".limb-rule .cursor")["x"], first(".method-bar .at")["x1"]].map { |at| at.to_f.round(1) })
      .to eq [share, share]
    expect(all("#methods .num summary").map(&:text)).not_to eq scores
    expect(page).to have_css("h1.now", text: "cut at #{find('#place .at').text} from the fork")
    expect(find("#f-cut", visible: :all).value).to eq find("#place .at").text
    select "Skylark Russet", from: "Becomes"
    find("summary", text: "The cut typed").click
    check "Cut it long in winter first"
    click_button "Keep this plan"
    expect(page).to have_css("h1.now", text: "#{moved} is to become Skylark Russet in 2026")
    expect(plan_of(apple)[moved].long_cut_mm).to be > plan_of(apple)[moved].cut_mm

    visit "/o/maunder-hill/plan/cuts"
    find("button[aria-label='B7 #{moved} is cut long']").click
    expect(page).to have_content("on the grafting day it is cut back fresh")
    expect(plan_of(apple)[moved].headed_on).to eq World::TODAY
  end

  it "changes roles under the drawing, and says in words and on the drawing what is wrong" do
    apple = standing("B", 8)
    visit "/o/maunder-hill/plan/trees/#{apple.id}"
    apple.limbs.each do |limb|
      limb_tag(limb.tag).click
      page.evaluate_script("window.stayed = true")
      within("form.roles") { click_button "lift" }
      expect(page).to have_css("form.roles button[aria-pressed='true']", text: "lift")
      # The role is kept without another page, and the focus stays on it.
      expect(page.evaluate_script("[window.stayed, document.activeElement.value]")).to eq [true, "lift"]
    end
    visit "/o/maunder-hill/plan/trees/#{apple.id}"
    expect(page).to have_content("nothing would be left to feed the roots")
    limb_tag(apple.limbs.first.tag).click
    within("form.roles") { click_button "work" }
    visit "/o/maunder-hill/plan/trees/#{apple.id}"
    expect(page).to have_content("No nurse limb is kept")

    fill_in "No season may take more than, %", with: "lots"
    click_button "Compare again"
    expect(page).to have_content("is a share from 1 to 100 %")
    apple.limbs.first.update(girth_mm: 320)
    apple.reload.plan.plan_limbs.find { |row| row.role == "work" }.update(cut_mm: 700, technique: "rind", stock_mm: 40)
    visit "/o/maunder-hill/plan/trees/#{apple.id}"
    expect(page).to have_content("was measured anew")
    expect(page).to have_css("svg.elevation .tag.faulty", count: 1)
  end

  it "makes a family tree of four varieties, and keeps a protected one out until it is permitted" do
    sort = ->(name, **facts) { Vestry::Records::Variety.create(orchard_id: here.id, name: name, species: "pear",
        **facts) }
    %w[Michael Lammas].each { |name| sort[name, vigour: "middling", pollen: "good"] }
    locked = sort["Gatehouse", protected: true]
    pear = standing("D", 3)
    visit "/o/maunder-hill/plan/trees/#{pear.id}"
    click_link "What could stand on it"
    expect(page).to have_content("protected: no permission recorded")
    expect(page).to have_css("tr.doubtful, tr.workable, tr.good", minimum: 4)

    names = ["Michael", "Lammas", "Candlewick", "Gatehouse"]
    limbs = pear.limbs.reject(&:parent_id).first(4)
    limbs.zip(names).each do |limb, name|
      visit "/o/maunder-hill/plan/trees/#{pear.id}?limb=#{limb.id}"
      find("option", text: /\A#{name}/).select_option
      click_button "Keep this plan"
      next unless name == "Gatehouse"

      expect(page).to have_content("no permission is recorded")
      visit "/o/maunder-hill/varieties/#{locked.id}"
      fill_in "Permission, as recorded", with: "Letter of 3 March"
      click_button "Keep this"
      expect(page).to have_content("Gatehouse is kept.")
      visit "/o/maunder-hill/plan/trees/#{pear.id}?limb=#{limb.id}"
      find("option", text: /\A#{name}/).select_option
      click_button "Keep this plan"
    end
    visit "/o/maunder-hill/plan/trees/#{pear.id}"
    expect(pear.reload.plan.plan_limbs.map { |row| row.variety&.name }.compact).to match_array names

    visit "/o/maunder-hill/plan"
    expect(page).to have_content("Short by")
    click_link "Michael"
    fill_in "Sticks", with: "40"
    fill_in "For the season", with: "2026"
    click_button "Note this promise"
    expect(page).to have_content("40 sticks of Michael are promised for 2026.")
    visit "/o/maunder-hill/plan"
    expect(find(".wanted-line", text: "Michael")).to have_no_content("Short by")
  end

  it "plans a whole row from a pattern, each tree its own, and lists what could not be" do
    planned = here.trees_dataset.where(row: "B").all.count(&:plan)
    visit "/o/maunder-hill/plan"
    click_link "Plan whole rows"
    click_button "Plan these trees"
    expect(page).to have_content("Choose at least one row")
    check "B", allow_label_click: false
    select "Evensong (apple)", from: "Becomes"
    choose "two"
    fill_in "Purpose", with: "Haulier to Evensong"
    click_button "Plan these trees"
    expect(page).to have_css("h1.now", text: "have a plan now")
    if planned.positive?
      expect(page).to have_content("has a plan already, which was left as it is")
    end
    tree = standing("B", 9)
    click_link tree.label, match: :first
    expect(page).to have_content("Haulier to Evensong")
    expect(plan_of(tree).values.map { |row| row.variety&.name }.compact.uniq).to eq ["Evensong"]
  end


  it "takes a role back where it was pressed, in place, and gives it again" do
    apple = standing("B", 7)
    limb = apple.limbs.first
    visit "/o/maunder-hill/plan/trees/#{apple.id}?limb=#{limb.id}"
    find("#roles").click_button "nurse"
    expect(page).to have_css("form.undo", text: "Planned limb B7 #{limb.tag}, new.")
    expect(plan_of(apple)[limb.tag].role).to eq "nurse"
    find("form.undo").click_button "Undo"
    expect(page).to have_css("form.undo", text: "Do it again")
    expect(page).to have_css("#roles button[aria-pressed=false]", text: "nurse")
    expect(page).to have_current_path(/limb=#{limb.id}/)
    expect(apple.reload.plan).to be_nil
    # The way there by the keys.
    page.send_keys "u"
    expect(page).to have_css("#roles button[aria-pressed=true]", text: "nurse")
    find("#roles").click_button "none"
    expect(page).to have_no_css("#roles button[aria-pressed=true]")
    expect(plan_of(apple)).to eq({})
    visit "/o/maunder-hill/plan/trees/#{apple.id}?limb=#{limb.id}"
    expect(page).to have_css("#roles button", text: "nurse").and have_no_css("form.undo")
  end

  it "has room beside the rule for a cut in feet and inches, at a desk and on a phone" do
    here = orchard(units: "imperial", reach_mm: 3000)
    long = limb(tree(here, height_mm: 6000), "A", length_mm: 4500, girth_mm: 420, rise_deg: 10, fork_mm: 2000)
    sign_in person("Greta", steward: here)
    room = [[1280, 800], [390, 844]].map do |size|
      page.current_window.resize_to(*size)
      visit "/o/#{here.slug}/plan/trees/#{long.tree_id}?limb=#{long.id}"
      expect(page).to have_css(".at-cut", text: "12 ft")
      # As long as it comes to be while it is pulled.
      right = now("(() => { const cut = document.querySelector('.at-cut'); cut.textContent = '12 ft 10 7/8 in'; " \
                  "const words = document.createRange(); words.selectNodeContents(cut); " \
                  "return words.getBoundingClientRect().right; })()")
      edge = size.first > 1000 ? box(".docket")["left"] : size.first
      edge - right
    end
    expect(room).to all(be >= 0)
  end
end
