# frozen_string_literal: true

RSpec.describe "Wood and tape" do
  let(:here) { orchard }
  let(:kinds) { %w[Amber Beech Cobnut].map { |name| variety(here, name) } }
  let(:standing) { tree(here) }

  def bundle(cut_on, kind: kinds.first)
    made = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, source: "row S", cut_on: cut_on)
    Vestry::Records::Stick.add(made, [8.0])
  end

  def in_season(season, today) = Vestry::Records::WoodStore.new(here, today).bundles(season: season).map(&:cut_on)

  it "counts wood to the season in whose working year it is cut, from its first day to its last" do
    first = here.season.span(2026).begin
    days = [first - 1, first, (first >> 12) - 1, first >> 12]
    days.each { |day| bundle(day) }
    later = Date.new(2027, 12, 31)
    expect([2025, 2026, 2027].map { |season| in_season(season, later) })
      .to eq [[days[0]], [days[1], days[2]], [days[3]]]
    expect(in_season(2026, first)).to eq [first]
  end

  it "is cut as long as what stands here sleeps, whether any is wanted yet or not" do
    north = orchard(latitude: 61.2, longitude: 9.1, altitude_m: 180)
    window = lambda do
      Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[north.id], 2026, Date.new(2026, 1, 10)).window
    end
    bare = window.call[:to]
    stub = limb(tree(north), "A")
    none_wanted = window.call[:to]
    Vestry::Deeds::DecideLimb.call(stub, { role: "work", variety: variety(north).id, cut: 900.0, technique: "rind",
                                           against_reason: "so it is" }, by: "Orla", season: 2026)
    expect([bare, none_wanted, window.call[:to]]).to eq [Date.new(2026, 2, 20), *[Date.new(2026, 3, 29)] * 2]
  end

  it "gives each variety of a tree its own tape, grafted and planned, the same all over the orchard" do
    amber, beech, = kinds
    graft(limb(standing, "A"), variety_id: amber.id)
    Vestry::Deeds::DecideLimb.call(limb(standing, "B"), { role: "work", variety: beech.id }, by: "Orla", season: 2026)
    tape = Vestry::Records::TapeColours.new(here)
    told = tape.of(Vestry::Records::Tree[standing.id])
    expect(told.keys).to eq [amber.id, beech.id]
    colours = here.rulebook.value("materials.colours")
    expect(told.values).to eq colours.first(2)
    expect(tape.on_tree([beech.id])).to eq(beech.id => colours[1])
    # One that is written down since is given what is free.
    expect(tape.on_tree([amber.id, variety(here, "Damson").id]).values).to eq colours.first(2)
  end

  it "offers the shoots of limbs that are sawn off anyway, and not those of a limb that stays" do
    amber, beech, = kinds
    old = tree(here, variety_id: amber.id)
    [["A", "rind", 600], ["B", "rind", nil], ["C", "side-bark", 600],
     ["D", "rind", 600, beech]].each do |tag, way, at, on|
      planned = Vestry::Deeds::DecideLimb.call(limb(old, tag, **(on ? { variety_id: on.id } : {})),
                                               { role: "work", variety: beech.id }, by: "Orla", season: 2026)
      planned.this.update(technique: way, cut_mm: at, sticks: 1)
    end
    # What comes off whole, or is headed back, is sawn too; a stub whose graft was lost has no head to take from.
    { "L" => "lift", "R" => "renew", "N" => "nurse" }.each do |tag, role|
      Vestry::Deeds::DecideLimb.call(limb(old, tag), { role: role }, by: "Orla", season: 2026)
    end
    stub = limb(old, "S")
    graft(stub, variety_id: beech.id, grafted_on: Date.new(2025, 4, 20), cut_mm: 700, lost_on: Date.new(2025, 7, 1),
                lost_cause: "failed")
    Vestry::Deeds::DecideLimb.call(stub, { role: "work", variety: beech.id, technique: "rind", cut: 640,
                                           against_reason: "again" }, by: "Orla", season: 2026)
    other = Vestry::Deeds::DecideLimb.call(limb(tree(here), "A"), { role: "work", variety: amber.id }, by: "Orla",
                                                                                                       season: 2026)
    other.this.update(technique: "rind", cut_mm: 600, sticks: 1)
    lines = Vestry::Records::WoodOrder.new(here, 2026, Date.new(2026, 1, 10)).lines
    expect(lines.to_h { |line| [line.variety.name, line.offered.map(&:label)] })
      .to eq("Amber" => %w[A L R].map { |tag| "#{old.label} #{tag}" }, "Beech" => ["#{old.label} D"])
    200.times { bundle(Date.new(2026, 1, 8)) }
    stored = Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2026, Date.new(2026, 1, 10)).lines
    expect(stored.find { |line| line.variety.name == "Amber" }.offered).to eq []
  end

  it "cuts from old wood and from grafts that took and are old enough, and from no tree that was worked over whole" do
    amber, beech, = kinds
    planned = Vestry::Deeds::DecideLimb.call(limb(tree(here, row: "Z"), "A"), { role: "work", variety: amber.id },
                                             by: "Orla", season: 2026)
    planned.this.update(technique: "rind", cut_mm: 600, sticks: 1)
    made = lambda do |number, day, **more|
      stub = limb(tree(here, row: "G", number: number), "A")
      graft(stub, variety_id: amber.id, grafted_on: Date.iso8601(day), **more)
    end
    took = ->(graft, **said) { Vestry::Records::Tally.create(orchard_id: here.id, graft_id: graft.id, season: 2024,
                                                             tallied_on: Date.new(2024, 10, 20), alive: true, **said) }
    first = made[1, "2023-04-20"]
    took[first]
    took[made[2, "2023-04-20"], alive: false]
    made[3, "2023-04-20"]
    took[made[4, "2023-04-20", lost_on: Date.new(2025, 3, 1), lost_cause: "blown-out"]]
    young = made[5, "2025-04-20"]
    visit = { orchard_id: here.id, graft_id: young.id, seen_on: Date.new(2025, 6, 1), verdict: "took" }
    Vestry::Records::Visit.create(visit)
    over = took[made[6, "2023-04-20"]]
    graft(over.graft.limb, variety_id: beech.id, grafted_on: Date.new(2025, 4, 20))
    old = [1, 2, 3].map { |number| tree(here, row: "O", number: number, variety_id: amber.id) }
    graft(limb(old[0], "A"), variety_id: beech.id)
    own = limb(old[0], "B")
    graft(limb(old[1], "A"), variety_id: beech.id)
    named = -> { Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2026, Date.new(2026, 1, 10))
      .lines.first.sources.map(&:label) }
    expect([named.call, named.call]).to eq [%w[O1 O3 G1]] * 2
    # What is stored of it goes with the limbs that are worked over and the trees that are taken away.
    graft(own, variety_id: beech.id, grafted_on: Date.new(2025, 4, 20))
    expect(named.call).to eq %w[O3 G1]
    old[2].update(hidden_at: Time.now)
    expect(named.call).to eq %w[G1]
    took[first, season: 2025, tallied_on: Date.new(2025, 10, 20), alive: false]
    expect(named.call).to eq []
  end

  it "finds a row by the number that an address says, in tens and not otherwise" do
    trees = Array.new(12) { |i| tree(here, row: "K", number: i + 1) }
    expect(trees.map { |each| here.tree!(each.id.to_s).id }).to eq trees.map(&:id)
    ["0x1", "1_0", "", "ten", "9999999999", "-1"].each do |id|
      expect { here.tree!(id) }.to raise_error(Vestry::Records::Missing)
    end
  end
end
