# frozen_string_literal: true

# What wood is wanted for: the stubs that can still be set.
RSpec.describe Vestry::Records::StubsInTime do
  let!(:here) { demo }

  def on(day) = described_class.new(Vestry::Records::Orchard[here.id], 2026, Date.iso8601(day))
  def trees(day) = on(day).rows.map { |row| row.limb.tree.label }.tally
  def supply(day) = Vestry::Records::WoodSupply.new(Vestry::Records::Orchard[here.id], 2026, Date.iso8601(day))

  it "are all of the season while there is time, and those of other kinds once one kind's is over" do
    expect(trees("2026-05-18")).to eq("A6" => 2, "B5" => 3, "B6" => 2, "C1" => 2, "C2" => 3, "E3" => 2)
    expect(trees("2026-06-20")).to eq("E3" => 2)
    expect(on("2026-06-20").of(here.planned(:stubs, 2026).rows.map(&:id)).map { |row| row.limb.tree.label }.uniq)
      .to eq ["E3"]
    expect(trees("2026-09-20")).to eq({})
  end

  it "leaves a later season's as they are" do
    day = Date.new(2026, 9, 20)
    expect(here.stubs_in_time(2027, day).rows.size).to eq here.planned(:stubs, 2027).rows.size
  end

  it "no wood is short of, matched to or ordered for stubs whose time is over" do
    short = ->(day) { supply(day).lines.select(&:short?).map { |line| line.variety.name } }
    expect([short["2026-05-18"], short["2026-06-20"]]).to eq [["Tollgate Amber"], []]
    board = Vestry::Records::MatchBoard.new(Vestry::Records::Orchard[here.id], 2026, Date.new(2026, 6, 20))
    expect(board.places.map { |place| place.row.limb.tree.label }.uniq).to eq ["E3"]
    order = Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2026, Date.new(2026, 6, 20))
    expect(order.lines.map { |line| line.variety.name }).to eq ["Stonepit Perry"]
  end

  # The whips of E3 need no bark that slips.
  it "wants wood of the season while one that needs no bark can still be set, though a later season is planned for" do
    place = -> { Vestry::Records::Orchard[here.id] }
    closed = place[].bark_forecast(World::TODAY).closes_last + 1
    whip = place[].stub_windows(closed).stubs.find { |stub| stub.tree.label == "E3" }
    # Whatever wood there is.
    last = whip.window[:ends].except("wood_ends_on").values.min
    expect([whip.row.technique, last > closed, place[].season_to_plan(closed)]).to eq ["whip-and-tongue", true, 2027]
    expect([closed, last, last + 1].map { |day| place[].season_of_wood(day) }).to eq [2026, 2026, 2027]
    store = Vestry::Records::WoodStore.new(place[], closed)
    expect(store.bundles).to eq store.bundles(season: 2026)
    # What a stub waits for stays in store, and is looked at; what nobody waits for any more is left over.
    over = lambda do |day|
      Vestry::Records::WoodStore.new(place[], day).left_over.map { |bundle| bundle.variety.name }.uniq.sort
    end
    expect([over[closed].include?("Skylark Russet"), over[last + 1] - over[closed]]).to eq [true, ["Stonepit Perry"]]
    # Apples are over before walnuts are.
    apples = place[].last_days(World::TODAY).of_kind("apple")
    expect([over[apples], over[apples + 1] & ["Skylark Russet", "Stonepit Perry"]]).to eq [[], ["Skylark Russet"]]
    perry = store.bundles.find { |bundle| bundle.variety.name == "Stonepit Perry" }
    expect([store.keep(perry).over, store.checks_due.size]).to eq [false, 1]
    # One of its two limbs is of a size that no stick here has.
    allow(store).to receive_messages(kept: [], spent: {})
    order = Vestry::Records::WoodOrder.new(place[], 2026, closed)
    said = Vestry::Web::Headline.new(place[], closed).wood(order, store)
    expect([said.to_s, Vestry::Records::MatchBoard.new(place[], 2026, closed).short])
      .to match [/\AThere is wood enough for 2026, \d+ sticks in store, but 1 stub has none that fits\./, 1]
    whip.tree.limbs.filter_map(&:planned).each { |row| row.update(season: 2027) }
    expect(place[].season_of_wood(closed)).to eq 2027
  end

  it "keeps wood of what was set without bark that slips, for it is made again as long where it dies" do
    closed = Vestry::Records::Orchard[here.id].bark_forecast(World::TODAY).closes_last + 1
    here.trees_dataset.where(row: "E").all.flat_map(&:limbs).filter_map(&:planned)
      .each { |row| row.update(season: 2027) }
    kind = here.varieties_dataset.first(name: "Evensong")
    store = ->(day = closed) { Vestry::Records::WoodStore.new(Vestry::Records::Orchard[here.id], day) }
    evensong = ->(all) { all.any? { |bundle| bundle.variety_id == kind.id } }
    shelf = -> { evensong[store[].still_kept(2027).map(&:bundle)] }
    expect([evensong[store[].left_over], shelf[]]).to eq [true, false]
    made = graft(limb(here.trees_dataset.first(row: "A", number: 12), "Z"), technique: "cleft", variety_id: kind.id,
                                                                             grafted_on: closed - 40)
    expect([evensong[store[].left_over], shelf[], store[].checks_due.size]).to eq [false, true, 1]
    made.update(technique: "rind")
    expect([evensong[store[].left_over], shelf[]]).to eq [true, false]
    made.update(technique: "cleft")
    over = Vestry::Records::LastDays.new(Vestry::Records::Orchard[here.id], closed)
      .regraft(made.limb.tree_id, "apple", technique: "cleft") + 1
    expect(evensong[store[over].left_over]).to be true
  end

  it "hears at once that the bark of one tree lifts no longer" do
    before = supply("2026-05-18").lines.find { |line| line.variety.name == "Evensong" }.count
    tree = here.trees_dataset.first(row: "B", number: 6)
    Vestry::Deeds::SeeStage.call(tree, stage: "leaves", slipping: nil, closed: true, on: Date.new(2026, 5, 17),
                                       by: "Orla", today: Date.new(2026, 5, 18))
    expect(trees("2026-05-18").key?("B6")).to be false
    expect(supply("2026-05-18").lines.find { |line| line.variety.name == "Evensong" }.count).to be < before
  end
end
