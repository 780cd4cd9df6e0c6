# frozen_string_literal: true

# Every page, at both sizes, against the accessibility rules, with text at seven to one, and the letters of its drawings
# large enough to be read and whole.
RSpec.describe "Every page can be read by everyone" do
  let!(:here) { demo }
  let(:axe) { File.read(File.join(Vestry::ROOT, "node_modules/axe-core/axe.min.js")) }

  # What may be otherwise on a narrow screen, where some words are out of sight and things lie closer.
  NARROW = %w[target-size scrollable-region-focusable meta-viewport link-name button-name label select-name
              input-button-name image-alt svg-img-alt aria-hidden-focus aria-command-name page-has-heading-one
              heading-order landmark-one-main region].freeze

  # @param narrow [Boolean] a phone, of a page that was looked at in whole at a desk
  def violations(narrow:)
    # A bar that stays at the foot of the screen lies over whatever is scrolled beneath it just now.
    page.execute_script("document.querySelectorAll('.keep-bar').forEach((bar) => { bar.style.position = 'static'; })")
    found = page.evaluate_async_script(<<~JS)
      const done = arguments[0];
      const where = (each) => each.nodes.slice(0, 3).map((node) => node.html.slice(0, 160)).join(" | ");
      const rules = { "color-contrast": { enabled: false }, "color-contrast-enhanced": { enabled: true } };
      const sets = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"];
      const what = #{narrow} ? { runOnly: { type: "rule", values: #{NARROW.to_json} } } : { runOnly: sets, rules };
      axe.run(document, { preload: false, resultTypes: ["violations"], ...what })
         .then((found) => done(found.violations.map((each) => `${each.id}: ${where(each)}`)));
    JS
    wide = page.evaluate_script("document.documentElement.scrollWidth > window.innerWidth + 1")
    found += ["wider than the screen"] if wide
    poor_letters(least: 12).empty? ? found : found + ["letters: #{poor_letters(least: 12).join(', ')}"]
  end

  def pages
    graft = here.grafts.first
    tree = graft.limb.tree_id
    wounds = Vestry::Records::Wound.order(:id).select_map(:id)
    fresh = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: tree, found_on: World::TODAY, girth_mm: 500,
                                          bark_left: 0.2, drying: true, cause: "teeth").id
    bare = here.trees_dataset.first(row: "B", number: 1)
    stations = ["survey", "survey/trees/#{tree}", "survey/trees/#{tree}?limb=#{graft.limb_id}", "survey/trees/new",
                "files", "plan", "plan/trees/#{bare.id}", "plan/trees/#{bare.id}?limb=#{bare.limbs.first.id}",
                "plan/trees/#{tree}?after=2026", "plan/trees/#{tree}/varieties", "plan/trees/#{tree}/versions",
                "plan/rows/B", "plan/cuts", "plan/pattern", "varieties", "varieties/#{here.varieties.first.id}", "wood",
                "wood/list", "wood/dip?way=make&total=2&total_in=jug&target=0.5&strength=4.5", "wood/match",
                "wood/bundles/new", "wood/bundles/#{Vestry::Records::Bundle.first.id}",
                "wood/stores/#{Vestry::Records::Store.order(:id).first.id}", "wood/labels", "slip", "slip/walk?row=B",
                "slip/crew", "slip/weather",
                "graft", "graft/sheet", "graft/limbs/#{bare.limbs.first.id}", "graft/limbs/#{bare.limbs.first.id}/cuts",
                "graft/limbs/#{bare.limbs.first.id}/different?stub=70&torn=80&lifts=no", "repair",
                "repair/#{wounds.first}", "repair/#{wounds.first}/log", "repair/#{fresh}", "tend", "tend/nurses",
                "tend/calendar", "tend/grafts/#{graft.id}", "tend/grafts/#{graft.id}/tidy", "tally?row=A",
                "tally/took?by=grafter", "tally/trees/#{tree}?year=2029", "tally/limbs/#{graft.limb_id}",
                "tally/grafts/#{graft.id}", "settings", "people", "people/outbox",
                "history", "history/limbs/#{graft.limb_id}/hide", "find?q=skylark", "rulebook",
                "rulebook/entry/species.apple.take"]
    (stations + Vestry::Web::Admin::RulebookPages::PAGES.keys.map { |name| "rulebook/#{name}" })
      .map { |path| "/o/maunder-hill/#{path}" } + ["/you", "/password"]
  end

  SIZES = { "desk" => [1280, 800], "phone" => [390, 844] }.freeze

  # A few trees have all that the pages show; a whole orchard has more of the same.
  def few_trees
    named = [*Vestry::DB[:wounds].select_map(:tree_id), *Vestry::DB[:photos].select_map(:tree_id),
             *here.trees_dataset.where(row: %w[A B]).order(:row, :number).select_map(:id)]
    Vestry::DB[:trees].exclude(id: named).update(hidden_at: Time.now)
  end

  # Longer names than most, of what stands at the head of every page and on many.
  def long_names
    here.update(name: "The orchard behind the gatekeeper's old house at Underbankside by the water")
    here.grafts.first.variety.update(name: "Winterköniginnenrenette-von-der-oberen-Hangwiese Spätblühend")
    person("Wilhelmina Ångström-Thorvaldsdottir van der Hoogeveen", steward: here)
  end

  it "has nothing to mend, at the size of a desk or of a phone" do
    few_trees
    faults, sizes = {}, SIZES.to_a
    # At the size of the page before first: a window takes its time to change.
    look = lambda do |address|
      page.execute_script(axe)
      (sizes = sizes.reverse).each do |name, size|
        page.current_window.resize_to(*size) unless now("innerWidth") == size.first
        faults["#{address} (#{name})"] = violations(narrow: name == "phone")
      end
    end
    visit "/sign-in"
    look.call("/sign-in")
    sign_in long_names
    pages.each do |address|
      visit address
      page.execute_script("document.querySelectorAll('main details').forEach((each) => { each.open = true; })")
      # A long table or list has more of the same.
      more = "main :is(tbody tr, ul > li):nth-child(n+9)"
      page.execute_script("document.querySelectorAll('#{more}').forEach((each) => each.remove())")
      look.call(address)
    end
    expect(faults.reject { |_, found| found.empty? }).to eq({})
  end
end
