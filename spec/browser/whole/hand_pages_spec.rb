# frozen_string_literal: true

# What is used in the tree, on a phone: where it begins, how large its letters and targets are, and that nothing runs
# out of the width with letters twice as large or on a narrow phone.
RSpec.describe "The pages that are used in the hand" do
  let!(:here) { demo }

  before { sign_in person(steward: here) }

  def pages
    card = Vestry::Records::DaySheet.new(here, World::TODAY, World::TODAY).cards.first
    due = Vestry::Records::Agenda.new(here, World::TODAY).due.reject(&:wound?).first.of
    wound = Vestry::Records::Wound.order(:id).first
    %W[today graft/sheet graft/stubs graft/limbs/#{card.limb.id} graft/limbs/#{card.limb.id}/cuts
       graft/limbs/#{card.limb.id}/different tend tend/stops tend/grafts/#{due.id} slip/walk tally?row=A
       tally/grafts/#{due.id} repair/#{wound.id} repair/#{wound.id}/log survey/trees/#{card.tree.id}/limb]
  end

  def each_page(of = pages)
    of.to_h do |path|
      visit "/o/maunder-hill/#{path}"
      [path, yield]
    end
  end

  # What is pressed, but for links in a sentence.
  LOW = <<~JS
    [...document.querySelectorAll("main button, main .act a, main .thumb a, main summary, .stations a, main select, main input:not([type=hidden], [type=checkbox], [type=radio], [type=range], [type=file])")]
      .map((each) => [each, each.getBoundingClientRect()]).filter(([each, box]) => box.height > 0 && box.height < 43.5 && !each.closest(".working, .sentence, .fold-caution, .caution, .task, .list"))
      .map(([each, box]) => `${each.tagName} ${each.textContent.trim().slice(0, 20)} ${Math.round(box.height)}`).slice(0, 4)
  JS

  it "begin within 110 px, have letters of 14 px in their drawings, and targets for a thumb" do
    page.current_window.resize_to(390, 844)
    found = each_page do
      first = "[...document.querySelectorAll('main h1, main h2, main .tag-line')]" \
              ".find((each) => each.getBoundingClientRect().width > 2)"
      { begins: now("#{first}.getBoundingClientRect().top"), small: poor_letters(least: 14), low: now(LOW) }
    end
    expect(found.select { |_, each| each[:begins] > 110 }).to eq({})
    expect(found.transform_values { |each| each[:small] }.reject { |_, small| small.empty? }).to eq({})
    expect(found.transform_values { |each| each[:low] }.reject { |_, low| low.empty? }).to eq({})
  end

  it "can be read on a phone that is held sideways, and on a tablet, with nothing lying over them" do
    tree = here.trees_dataset.first(row: "B", number: 1)
    drawn = pages.grep(%r{/stubs|/limbs/\d+$|grafts|repair}) +
            %W[survey survey/trees/#{tree.id} plan/trees/#{tree.id}]
    [[844, 390], [768, 1024]].each do |size|
      page.current_window.resize_to(*size)
      found = drawn.to_h do |path|
        visit "/o/maunder-hill/#{path}"
        over = "[...document.querySelectorAll('.keep-bar, .verdicts')].map((each) => getComputedStyle(each).position)"
        [path, poor_letters(least: 12) + (size.last < 500 ? now(over) - ["static"] : [])]
      end
      expect([size, found.reject { |_, wrong| wrong.empty? }]).to eq [size, {}]
    end
  end

  it "draw on their own paper where someone has colours of their own" do
    client = page.driver.browser.page
    visit "/o/maunder-hill/survey/trees/#{here.trees_dataset.first(row: 'B', number: 1).id}"
    paper = "getComputedStyle(document.querySelector('svg.elevation')).backgroundColor"
    expect(now(paper)).to eq "rgba(0, 0, 0, 0)"
    client.command("Emulation.setEmulatedMedia", features: [{ name: "forced-colors", value: "active" }])
    expect(now(paper)).to eq now("getComputedStyle(document.querySelector('.year')).backgroundColor")
    expect(now(paper).scan(/\d+/).map(&:to_i)).to all(be > 240)
  ensure
    client.command("Emulation.setEmulatedMedia", features: [])
  end

  it "show the tree before what is said of it, and what it is cut by beside it" do
    page.current_window.resize_to(390, 844)
    tree = here.trees_dataset.first(row: "B", number: 1)
    limb = tree.limbs.first
    top = ->(css) { box(css)["top"] }
    %W[survey/trees/#{tree.id} survey/trees/#{tree.id}?limb=#{limb.id} plan/trees/#{tree.id}
       plan/trees/#{tree.id}?limb=#{limb.id} tally/trees/#{tree.id}].each do |path|
      visit "/o/maunder-hill/#{path}"
      expect(page).to have_css("svg.elevation a.tag", minimum: 4)
      expect([path, top["svg.elevation"], top["svg.elevation"] < top[".docket"]]).to match [path, be < 170, true]
    end
    visit "/o/maunder-hill/plan/trees/#{tree.id}?limb=#{limb.id}"
    expect(page).to have_field("Move the cut along #{limb.tag}")
    expect(page).to have_no_css(".aside figure")
    find("summary", text: "From above").click
    seen = find(".turn span").text
    find("a[aria-label='Walk round to the left']").click
    expect(page).to have_no_css(".turn span", text: seen).and have_css(".aside figure")
  end

  it "stay within the width at twice the letters, at a desk too, and on a phone of 320 px" do
    { 390 => "200%", 320 => "100%", 1280 => "200%" }.each do |width, size|
      page.current_window.resize_to(width, 844)
      wide = each_page([*pages, "practice"]) do
        now("document.documentElement.style.fontSize = '#{size}', document.documentElement.scrollWidth")
      end
      expect(wide.select { |_, each| each > width }).to eq({})
    end
  end
end
