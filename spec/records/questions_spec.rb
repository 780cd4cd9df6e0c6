# frozen_string_literal: true

RSpec.describe "Questions asked of an orchard" do
  let(:here) { orchard }
  let(:elsewhere) { orchard }
  let(:stock) { limb(tree(here)) }

  def found(words) = Vestry::Records::Finder.new(here).find(words)

  it "finds a tree and a limb by what people call them, in any case" do
    stock
    expect([found("a1").tree.label, found("A 1 a").limb.id, found("A-1").tree.label]).to eq ["A1", stock.id, "A1"]
    expect(found("A99999999999").tree).to be_nil
  end

  it "finds a limb behind its tree without a space, before it, and by the word for it" do
    stock
    expect(["a1a", "A1-A", "a 1/a", "limb a1 a", "limb A of A1", "A on tree a1"].map { |words| found(words).limb&.id })
      .to all(eq(stock.id))
    expect(found("a1zz").to_h.slice(:limb, :lacking)).to eq(limb: nil, lacking: "zz")
    expect(Vestry::Records::Finder.tree(here, "A1A")).to be_nil
  end

  it "finds what is printed on a label, though it begins as a tree's place does" do
    nine = tree(here, number: 9)
    stock.tree.update(code: "A9WWAAYZ7")
    stock.update(code: "B10TRE55H")
    expect([found("A9WWAAYZ7"), found("a9wwaayz7")].map { |each| [each.tree&.id, each.limb, each.lacking] })
      .to all(eq([stock.tree_id, nil, nil]))
    expect(found("b1Otre55h").limb&.id).to eq stock.id
    expect([found("A9").tree&.id, found("A9WWAAYZ8").lacking]).to eq [nine.id, "WWAAYZ8"]
  end

  it "finds trees by their number alone, kinds in the plural, stores, and a bundle by that word" do
    stock
    tree(here, row: "B", number: 1, species: "walnut")
    tree(elsewhere, row: "Q", number: 1, species: "pear")
    cellar = Vestry::Deeds::KeepStore.open(here, "Cold cellar", by: "Orla")
    made = Vestry::Deeds::MakeBundle.call(here, { variety: variety(here, "Amber").id, source: "x", diameters: [8.0],
                                                  cut_on: Date.new(2026, 1, 16),
                                                  checked: Vestry::Deeds::MakeBundle::CHECKS.keys },
                                          by: "Orla", today: World::TODAY)
    expect(found("1").numbered.map(&:label)).to eq %w[A1 B1]
    expect([found("Walnuts").kinds, found("apple").kinds, found("pears").kinds]).to eq [["walnut"], ["apple"], []]
    expect(found("celar").stores.map(&:id)).to eq [cellar.id]
    expect(["bundle 1", "Wood 1·1", "wood 1.1"].map { |words| found(words).bundle&.id }).to all(eq(made.id))
    expect(found("a").to_h.slice(:row, :varieties, :stores, :grafts)).to eq(row: "A", varieties: [], stores: [],
                                                                            grafts: [])
  end

  it "takes no short word for a name that is little like it" do
    graft(stock, grafter: "Tam Reddaway")
    variety(here, "Stonepit Perry")
    expect([found("take").grafts, found("pear").varieties]).to eq [[], []]
    expect(found("tam").grafts.size).to eq 1
  end

  it "forgives spelling, and keeps to its own orchard" do
    variety(here, "Tollgate Amber")
    variety(elsewhere, "Tollgate Copper")
    expect(found("tolgate ambr").varieties.map(&:name)).to eq ["Tollgate Amber"]
    expect(found("100%_").varieties).to eq []
  end

  it "tells the states of trees apart, and only the latest graft decides" do
    lost, again, planned, open = Array.new(4) { limb(tree(here)) }
    [lost, again].each do |each|
      failed = graft(each, grafted_on: Date.new(2025, 4, 21))
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: failed.id, seen_on: Date.new(2025, 6, 1),
                                          verdict: "failed")
    end
    graft(again)
    Vestry::Deeds::DecideLimb.call(planned, { role: "work" }, by: "Orla", season: 2026)
    states = Vestry::Records::TreeQueries.tree_states(here.id, [lost, again, planned, open].map(&:tree_id))
    expect([lost, again, planned, open].map { |each| states[each.tree_id] }).to eq %w[trouble grafted planned open]
  end

  it "takes a graft into its season's report and into its tree's years on its very day, and not before" do
    made = graft(stock, grafted_on: Date.new(2026, 4, 21))
    span = here.season.span(2026)
    asked = [made.grafted_on - 1, made.grafted_on].map do |day|
      [Vestry::Records::GraftQueries.of_span(here, span, by: day).map(&:id),
       Vestry::Records::TreeYears.new(stock.tree.refresh, day).grafts.map(&:id)]
    end
    expect(asked).to eq [[[], []], [[made.id], [made.id]]]
  end

  it "shows a tree from the season before its first graft, or from now, until four seasons ahead" do
    shown = -> { Vestry::Records::TreeYears.new(stock.tree.refresh, World::TODAY).seasons.minmax }
    expect(shown.call).to eq [2026, 2030]
    graft(stock, grafted_on: Date.new(2026, 4, 21))
    expect(shown.call).to eq [2025, 2030]
    graft(limb(stock.tree, "B"), grafted_on: Date.new(2024, 4, 21))
    expect(shown.call).to eq [2023, 2030]
  end

  it "puts what is late before what is due, and of a loss that was counted asks for another" do
    late = graft(stock, grafted_on: Date.new(2026, 5, 6))
    other = graft(limb(stock.tree, "B"), grafted_on: Date.new(2026, 4, 24))
    gone = graft(limb(stock.tree, "C"), grafted_on: Date.new(2025, 4, 24))
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: gone.id, season: 2025,
                                  tallied_on: Date.new(2025, 10, 1), alive: false)
    agenda = Vestry::Records::Agenda.new(here, World::TODAY)
    expect(agenda.due.map { |item| [item.of.id, item.task[:rule], item.task[:status]] })
      .to eq [[late.id, "wax-check", "late"], [other.id, "first-look", "open"], [gone.id, "again-this-spring", "open"]]
  end

  it "lists the stubs that wait, in walking order, and no longer once they are grafted" do
    stock
    second = limb(tree(here, row: "B", number: 1))
    [second, stock].each { |each| Vestry::Deeds::DecideLimb.call(each, { role: "work" }, by: "Orla", season: 2026) }
    waiting = -> { here.planned(:waiting, 2026).rows.map { |row| row.limb.label } }
    expect(waiting.call).to eq ["A1 A", "B1 A"]
    graft(stock)
    expect(waiting.call).to eq ["B1 A"]
    expect(here.planned(:waiting, 2025).rows).to eq []
  end

  it "says which of a limb's measures are only assumed, and draws with them meanwhile" do
    bare = limb(stock.tree, "B", length_mm: nil, fork_mm: nil, bearing_deg: nil, rise_deg: nil)
    expect(bare.unmeasured).to eq %i[length_mm fork_mm bearing_deg rise_deg]
    expect([bare.fork_mm, bare.rise_deg, bare.length_mm.round]).to eq [900, 45, (32 * 230 / Math::PI).round]
    expect(Vestry::Records::CoreInputs.cut_point(bare, "rind")).to include(feasible: true)
  end

  it "keeps knocks at the door together, and forgets them when their time is over" do
    counts = Vestry::Outside::DoorCounts.new
    expect([counts.increment("x", 1, expires_in: 60), counts.increment("x", 1, expires_in: 60)]).to eq [1, 2]
    Vestry::DB[:door_counts].update(expires_at: Time.now.utc - 1)
    expect([counts.read("x"), counts.increment("x", 1, expires_in: 60)]).to eq [nil, 1]
    counts.delete("x")
    expect(counts.read("x")).to be_nil
  end
end
