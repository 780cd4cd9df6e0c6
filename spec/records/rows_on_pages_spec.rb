# frozen_string_literal: true

# What pages show of many rows is as they are now, by whatever way they were written.
RSpec.describe "Rows that many pages show" do
  let(:here) { orchard }
  let(:kind) { variety(here, "Tollgate Amber") }
  let(:standing) { tree(here) }
  let(:trunk_limb) { limb(standing, "A") }
  let(:branch) { limb(standing, "A1", parent_id: trunk_limb.id, fork_mm: 900) }
  let(:fork) { limb(standing, "A11", parent_id: branch.id, fork_mm: 600) }
  let!(:row) do
    Vestry::Deeds::DecideLimb.call(fork, { role: "work", technique: "rind", cut: 400.0, practice: "pair",
                                         variety: kind.id }, by: "Orla", season: 2026)
  end
  let(:today) { Date.new(2026, 3, 1) }

  def afresh = Vestry::Records::Orchard[here.id]
  def up(limb) = [limb.values, limb.tree.values, *(up(limb.parent) if limb.parent)]
  def rows(kind = :stubs) = afresh.planned(kind, 2026).rows

  it "stand in walking order" do
    last = limb(tree(here, row: "B", number: 1), "B")
    Vestry::Deeds::DecideLimb.call(last, { role: "work" }, by: "Orla", season: 2026)
    told = rows
    expect(told.map { |each| each.limb.label }).to eq [fork.label, last.label]
    expect(rows(:waiting).map(&:id)).to eq told.map(&:id)
    expect(rows(:cuts).map(&:id)).to eq [row.id]
  end

  it "have the current orchard for theirs" do
    held = afresh
    expect(held.with_current { held.planned(:stubs, 2026).rows.first.limb.tree.orchard }).to equal held
  end

  { "its place is moved" => ->(it) { it.row.update(cut_mm: 450) },
    "its limb is measured" => ->(it) { it.fork.update(girth_mm: 200) },
    "what its limb grows from leans over" => ->(it) { it.branch.update(rise_deg: 10) },
    "what that grows from is measured" => ->(it) { it.trunk_limb.update(rise_deg: 12) },
    "its tree moves to another row" => ->(it) { it.standing.update(row: "Z") },
    "its variety is called otherwise" => ->(it) { it.kind.update(name: "Evensong") },
    "it is changed past every rule" => ->(it) { Vestry::DB[:plan_limbs].where(id: it.row.id).update(sticks: 3) },
    "its limb is grafted" => ->(it) { it.graft(it.fork) },
    "its limb comes off" => ->(it) { it.fork.update(gone_on: Date.new(2026, 2, 1)) },
    "another is planned" => ->(it) { Vestry::Deeds::DecideLimb.call(it.limb(it.standing, "C"), { role: "work" },
        by: "Orla", season: 2026) } }.each do |what, change|
    it "are as they are now when #{what}" do
      told = -> { rows.map { |each| [each.values, each.variety&.values, up(each.limb)] } }
      before = told.call
      change.call(self)
      expect(told.call).not_to eq before
    end
  end

  it "draws what follows from them anew: how high, how long, by when, and with which stick" do
    windows = -> { Vestry::Records::StubWindows.new(afresh, today).stubs.first }
    before = windows.call
    trunk_limb.update(fork_mm: 200, rise_deg: 5)
    expect(windows.call.minutes).to be < before.minutes
    Vestry::DB[:weather_days].multi_insert((Date.new(2026, 2, 1)..today).map { |day| { orchard_id: here.id, day: day,
      min_c: 18, max_c: 30 } })
    expect(windows.call.window[:opens_on]).to be < before.window[:opens_on]
    row.update(technique: "inlay")
    expect(windows.call.row.technique).to eq "inlay"
  end

  it "looks at the wood anew when a stick goes, a bundle is seen to, moved, or its store tells more" do
    store = Vestry::Deeds::KeepStore.open(here, "cold room", by: "Orla")
    bundle = Vestry::Deeds::MakeBundle.call(here, { variety: kind.id, source: "row S", cut_on: Date.new(2026, 1, 16),
                                                    diameters: [7.0, 8.0], store: store.id,
                                                    checked: Vestry::Deeds::MakeBundle::CHECKS.keys }, by: "Orla",
                                                    today: today)
    kept = -> { Vestry::Records::WoodStore.new(afresh, today).kept(season: 2026).first }
    expect([kept.call.left, kept.call.age]).to eq [2, nil]
    bundle.sticks.first.update(left_for: "lent")
    expect(kept.call.left).to eq 1
    readings = (Date.new(2026, 1, 17)..Date.new(2026, 2, 20)).map do |day|
      { orchard_id: here.id, store_id: store.id, at: day.to_time, celsius: 2 }
    end
    Vestry::DB[:store_readings].multi_insert(readings)
    cold = kept.call.age[:life_left_share]
    Vestry::DB[:store_readings].where(store_id: store.id).update(celsius: 12)
    expect(kept.call.age[:life_left_share]).to be < cold
    Vestry::DB[:stores].where(id: store.id).update(hidden_at: Time.now.utc)
    expect(kept.call.age).to be_nil
    Vestry::DB[:stores].where(id: store.id).update(hidden_at: nil)
    Vestry::Deeds::KeepBundle.check(bundle, "mould", on: Date.new(2026, 2, 25), note: "", by: "Orla")
    expect(kept.call.advice.first[:code]).to eq "wood_mould"
    Vestry::Deeds::KeepBundle.date(bundle.reload, Date.new(2026, 1, 10), by: "Orla", today: today)
    expect(kept.call.bundle.cut_on).to eq Date.new(2026, 1, 10)
  end

  it "reads those trees of a day anew that were changed" do
    another = tree(here, row: "B", number: 1)
    limb(another, "B")
    trees = -> { Vestry::Records::DrawnTrees.new(afresh, [standing.id, another.id]).trees }
    made = graft(trunk_limb)
    expect(trees.call[standing.id].limbs.map { |each| [each.tag, each.graft&.id] }).to include ["A", made.id]
    Vestry::DB[:tallies].insert(orchard_id: here.id, graft_id: made.id, season: 2026, tallied_on: Date.new(2026, 10, 4),
                                alive: true, growth_mm: 410, tallied_by: "Tam")
    expect(trees.call[standing.id].limbs.first.graft.tallies.map(&:growth_mm)).to eq [410]
    place = Vestry::Records::Site.create(orchard_id: here.id, tree_id: another.id, tag: "s1", at_mm: 400,
                                         bearing_deg: 90)
    expect(trees.call[another.id].sites.map(&:id)).to eq [place.id]
    another.update(hidden_at: Time.now.utc)
    expect(trees.call.keys).to eq [standing.id]
  end

  it "asks anew about wood in the same process when the orchard is found to lie in the south" do
    made = Vestry::Deeds::MakeBundle.call(here, { variety: kind.id, source: "row S", cut_on: Date.new(2026, 1, 16),
                                                  diameters: [7.0], checked: Vestry::Deeds::MakeBundle::CHECKS.keys },
                                          by: "Orla", today: today)
    every = here.rulebook.value("reckoning.wood.check_days")
    due = -> { Vestry::Records::WoodStore.new(afresh, Date.new(2026, 5, 18)).checks_due }
    expect(due.call).to eq [made.cut_on + every]
    # Of the wood of 2026 in the north, in January; in the south that was the summer of 2025.
    here.update(latitude: -here.latitude)
    expect(due.call).to eq []
    here.update(latitude: -here.latitude)
    expect(due.call).to eq [made.cut_on + every]
  end

  it "tells when wood falls due without reading it as it does with" do
    due = -> { Vestry::Records::WoodStore.new(afresh,
                                           today).then { |cellar| [cellar.checks_due.sort,
                                                                   cellar.kept(season: 2026).map(&:check_due).uniq
                                                                     .sort] } }
    make = ->(on) { Vestry::Deeds::MakeBundle.call(here,
                                                   { variety: kind.id, source: "row S", cut_on: on, diameters: [7.0],
                                                     checked: Vestry::Deeds::MakeBundle::CHECKS.keys }, by: "Orla",
                                                     today: today) }
    expect(due.call).to eq [[], []]
    days = [16, 16, 20].map { |day| Date.new(2026, 1, day) }
    one, _, late = days.map { |day| make.call(day) }
    every = here.rulebook.value("reckoning.wood.check_days")
    looked = Date.new(2026, 2, 11)
    check = -> { Vestry::Deeds::KeepBundle.check(one, "sound", on: looked, note: "", by: "Orla") }
    changes = [[-> {}, days], [check, [days[1], days[2], looked]],
               [-> { late.sticks.first.update(left_for: "lent") }, [days[1], looked]],
               [-> { one.update(hidden_at: Time.now.utc) }, [days[1]]]]
    changes.each do |change, looks|
      change.call
      expect(due.call).to eq [looks.uniq.map { |day| day + every }.sort] * 2
    end
  end

  it "keeps a crew's day that differs from the ordinary in its hours or in its hands, and no other" do
    ordinary = Vestry::Records::CrewPlan.new(here, today).days.first
    kept = -> { Vestry::DB[:crew_days].where(orchard_id: here.id, day: today).select_map(%i[hours grafters]) }
    settle = lambda do |hours, grafters|
      Vestry::Deeds::SettleCrew.day(here, today, hours: hours, grafters: grafters, by: "Orla")
    end
    settle[ordinary.hours, ordinary.grafters]
    expect(kept.call).to eq []
    settle[ordinary.hours, ordinary.grafters + 1]
    expect(kept.call.map(&:last)).to eq [ordinary.grafters + 1]
    settle[ordinary.hours + 1, ordinary.grafters + 1]
    expect(kept.call.map { |hours, _| hours.to_f }).to eq [ordinary.hours + 1.0]
  end

  it "lays a day's sheet anew when its place, its wood, its tree or what stands on it is other than it was" do
    sheet = -> { Vestry::Records::DaySheet.new(afresh, today, Date.new(2026, 6, 1)) }
    Vestry::Deeds::SettleCrew.day(here, today, hours: 8, grafters: 1, by: "Orla")
    Vestry::DB[:weather_days].multi_insert((Date.new(2026, 2, 1)..today).map { |day| { orchard_id: here.id, day: day,
          min_c: 18, max_c: 30 } })
    before = sheet.call
    expect(before.cards.map { |card| card.limb.tag }).to eq ["A11"]
    { -> { row.update(cut_mm: 450) } => ->(card) { card.place.at_mm == 450 },
      -> { branch.update(rise_deg: 5) } => ->(card) { card.place.height_mm < before.cards.first.place.height_mm },
      -> { Vestry::Deeds::MakeBundle.call(here, { variety: kind.id, source: "row S", cut_on: Date.new(2026, 1, 16),
                                                  diameters: [9.0, 9.0], checked: Vestry::Deeds::MakeBundle::CHECKS
                                                    .keys }, by: "Orla", today: today) } => ->(card) { card.given
                                                      .size == 2 && card.short.zero? },
                                                        -> { kind.update(name: "Evensong") } => ->(card) { card.row
                                                          .variety.name == "Evensong" },
                                                            -> { here.update(reach_mm: 500) } => ->(card) { card
                                                              .cautions.include?("saw") } }.each do |change, seen|
      expect(seen.call(sheet.call.cards.first)).to be false
      change.call
      expect(seen.call(sheet.call.cards.first)).to be true
    end
    standing.update(notes: "wasps")
    expect(sheet.call.trees.first.first.notes).to eq "wasps"
    made = graft(trunk_limb)
    expect(sheet.call.trees.first.first.limbs.find { |each| each.tag == "A" }.graft.fate).to eq "waiting"
    Vestry::DB[:observations].insert(orchard_id: here.id, graft_id: made.id, seen_on: today, verdict: "took",
                                     seen_by: "Tam")
    expect(sheet.call.trees.first.first.limbs.find { |each| each.tag == "A" }.graft.fate).to eq "took"
    Vestry::DB[:observations].where(graft_id: made.id).update(hidden_at: Time.now.utc)
    expect(sheet.call.trees.first.first.limbs.find { |each| each.tag == "A" }.graft.fate).to eq "waiting"
  end

  it "reads the weather of grafts anew after a correction, and how fast they grow back after a count" do
    made = graft(trunk_limb, grafted_on: Date.new(2025, 4, 10))
    Vestry::DB[:weather_days].multi_insert((Date.new(2025, 4, 1)..Date.new(2025, 5,
      30)).map { |day| { orchard_id: here.id, day: day, min_c: 4, max_c: 9, gust_ms: 3 } })
    knit = -> { Vestry::Records::CareSchedule.care(Vestry::Records::Graft[made.id], Date.new(2025, 5, 30))[:knit_on] }
    cold = knit.call
    Vestry::DB[:weather_days].where(orchard_id: here.id).update(min_c: 14, max_c: 24)
    expect(knit.call).to be < cold
    gale = -> { afresh.weather(Date.new(2025, 5, 30)).climate(Date.new(2025, 4, 1)).gale(Date.new(2025, 5, 1),
      Date.new(2025, 5, 30), within: 10) }
    expect(gale.call).to be_nil
    Vestry::DB[:weather_days].where(orchard_id: here.id, day: Date.new(2025, 5, 28)).update(gust_ms: 30)
    expect(gale.call).to eq Date.new(2025, 5, 28)

    grown = lambda do
      told = Vestry::Records::TreeYears.new(Vestry::Records::Tree[made.limb.tree_id], Date.new(2027, 5, 1))
      seen = told.plan.projected("p")[:work].flat_map { |each| each[:measured].to_a }
      [told.measured[2025], seen.sum { |each| each[:mm] }]
    end
    expect(grown.call).to eq [nil, 0]
    Vestry::DB[:tallies].insert(orchard_id: here.id, graft_id: made.id, season: 2025, tallied_on: Date.new(2025, 10, 4),
                                alive: true, above_mm: 55, tallied_by: "Tam")
    fast = grown.call
    expect(fast).to match [be_positive, 55.0]
    Vestry::DB[:tallies].where(graft_id: made.id).update(above_mm: 8)
    expect(grown.call).to match [be < fast[0], 8.0]
    made.update(hidden_at: Time.now.utc)
    expect(grown.call).to eq [nil, 0]
  end

  it "reckons stripped trunks anew after anything seen of them or done to them" do
    wound = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: standing.id, cause: "teeth",
                                          found_on: Date.new(2026, 2, 3), girth_mm: 400, bark_left: 0.2)
    told = -> { afresh.stripped_trunks(today).all }
    share = -> { told.call.first.share }
    held = afresh
    held.with_current { expect(held.stripped_trunks(today).all.first.wound.tree.orchard).to equal held }
    Vestry::DB[:wound_margins].multi_insert([0, 90, 180,
                                             270].map { |deg| { orchard_id: here.id, wound_id: wound.id,
                                                                bearing_deg: deg, low_mm: 100, high_mm: 300 } })
    expect(share.call).to eq 1.0
    Vestry::DB[:wound_margins].where(wound_id: wound.id, bearing_deg: 90).update(high_mm: 100)
    expect(share.call).to be < 1.0
    wound.update(repaired_on: Date.new(2026, 2, 20), course: "bridge", repaired_by: "Tam")
    scion = Vestry::Records::BridgeScion.create(orchard_id: here.id, wound_id: wound.id, number: 1, bearing_deg: 0,
                                                set_on: Date.new(2026, 2, 20))
    visit = Vestry::Records::WoundVisit.create(orchard_id: here.id, wound_id: wound.id, seen_on: Date.new(2026, 2, 27),
                                               seen_by: "Tam")
    Vestry::DB[:scion_fates].insert(orchard_id: here.id, visit_id: visit.id, scion_id: scion.id, fate: "alive")
    expect(told.call.first.living.map(&:id)).to eq [scion.id]
    Vestry::DB[:scion_fates].where(visit_id: visit.id).update(fate: "dead")
    expect(told.call.first.living).to eq []
    other = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: tree(here).id, cause: "frost",
                                          found_on: Date.new(2026, 2, 3), girth_mm: 300, bark_left: 0.6)
    standing.update(row: "Z")
    expect(told.call.map { |each| each.wound.label }).to include a_string_starting_with("Z")
    other.update(hidden_at: Time.now.utc)
    wound.update(hidden_at: Time.now.utc)
    expect(told.call).to eq []
  end

  it "sees a wound's due days anew after a look that was written by whatever way" do
    wound = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: standing.id, cause: "teeth",
                                          found_on: Date.new(2026, 2, 3), girth_mm: 400, bark_left: 0.2)
    due = -> { afresh.stripped_trunks(today).due_days }
    before = due.call
    Vestry::DB[:wounds].where(id: wound.id).update(covered_on: Date.new(2026, 2, 4))
    expect(due.call).not_to eq before
  end
end
