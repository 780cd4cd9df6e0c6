# frozen_string_literal: true

RSpec.describe "Repairing a stripped trunk" do
  let!(:here) { orchard }
  let!(:apple) { tree(here, row: "C", number: 10, trunk_girth_mm: 560) }
  let(:found) { { cause: "teeth", found_on: Date.new(2026, 1, 20), happened_on: Date.new(2026, 1, 17) } }
  let(:wound) { note("C10 bark 10% drying").first }

  MARGINS = [[0, 100, 100], [90, 60, 180], [180, 40, 260], [270, 80, 200]]
    .map { |at, low, high| { bearing_deg: at.to_f, low_mm: low.to_f, high_mm: high.to_f } }.freeze

  def read(text) = Vestry::Deeds::FindWounds.read(here, text)
  def note(text, **more)
    Vestry::Deeds::FindWounds.call(here, read(text), found.merge(more), by: "Orla", today: World::TODAY)
  end
  def measure(readings = MARGINS, **values) = Vestry::Deeds::MeasureWound.call(wound, values, readings, by: "Orla")
  def told(on = World::TODAY) = Vestry::Records::WoundReport.new(Vestry::Records::Wound[wound.id], on)
  def log(scions, **more)
    Vestry::Deeds::LogRepair.call(wound, { repaired_on: Date.new(2026, 4, 20), course: "bridge", wrap: "stretch-tape",
                                           scions: scions }.merge(more), by: "Orla", today: World::TODAY)
  end

  it "takes it that sound bark was found where it was measured down to it, and not where it goes on below the soil" do
    asked = ->(day) { told(day).mending[:tasks].find { |task| task[:key] == "dig" }[:status] }
    day = Date.new(2026, 1, 22)
    Vestry::Deeds::MeasureWound.call(wound, { buried: true }, MARGINS, by: "Orla", today: day)
    expect(asked[day]).to eq "open"
    Vestry::Deeds::MeasureWound.call(wound, { buried: true }, MARGINS, by: "Gus", today: day)
    expect(asked[day]).to eq "open"
    Vestry::Deeds::MeasureWound.call(wound, { buried: false }, MARGINS, by: "Tam", today: day)
    expect(asked[day]).to eq "done"
    expect(wound.tasks_done_dataset.select_map([:key, :done_by])).to eq [["dig", "Tam"]]
  end

  it "takes the shoots that its scions were to be cut from, and others only after those" do
    measure
    kind = variety(here)
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, source: "its own top",
                                            cut_on: Date.new(2026, 1, 25), length_mm: 900, whole_shoots: true)
    # The first two are no use for a bridge: too thin, and too thick.
    [3.0, 30.0, 9.0, 10.0, 11.0, 9.5, 8.0, 9.0].each_with_index do |mm, i|
      Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: bundle.id, number: i + 1, diameter_mm: mm)
    end
    on = Date.new(2026, 4, 20)
    bearings = told(on).places.map { |place| place[:bearing_deg] }
    wanted = told(on).shoots_at(bearings).map { |stick, _| stick.number }
    expect(wanted).to all(be > 2)
    expect(wanted.size).to be_between(1, 6)
    log(bearings.map { |at| { bearing_deg: at } }, bundle: bundle.id, shoots: wanted.size)
    expect(Vestry::Records::Stick.where(wound_id: wound.id).select_order_map(:number)).to eq wanted.sort
  end

  it "reads a line for each tree, in the orchard's units" do
    reads = read("C10 girth 22 in bark none buried\n\nC10\nC11\nC10 girth 3 m\nC10 bark lots\nC10 wibble")
    expect(reads.map(&:number)).to eq [1, 3, 4, 5, 6, 7]
    expect(reads.first.values).to include(girth_mm: 558.8, bark_left: 0.0, buried: true)
    expect(reads[1..].map(&:why)).to match [/in a line above already/, /C11 is not a tree here/,
                                            /3.00 m round is not likely for C10, surveyed at 560 mm: is that so\?/,
                                            /“lots” is no share; bark wants the share/, /“wibble” is neither/]
    expect(%w[all half third quarter none].map { |word| read("C10 bark #{word}").first.values[:bark_left] })
      .to eq [1.0, 0.5, 1 / 3.0, 0.25, 0.0]
    expect(read("C10 girth 1.9m sure").first.values[:girth_mm]).to eq 1900
    girths = Vestry::Deeds::FindWounds::GIRTH.map do |units, girth|
      here.update(units: units)
      read("C10 #{girth} bark 10% drying").first.values[:girth_mm]
    end
    expect(girths).to match [570.0, be_within(5).of(570)]
    expect(read("C10 rootless grafted-low").first.values.slice(:root_bark, :below_union, :girth_mm))
      .to eq(root_bark: false, below_union: true, girth_mm: 560)
  end

  it "notes all or none, and the same form once" do
    expect { note("C10 bark 10%\nQ9") }.to raise_error(Vestry::Deeds::Refused)
    expect(Vestry::Records::Wound.count).to eq 0
    key = SecureRandom.uuid
    reads = read("C10 bark 10%")
    2.times do
      Vestry::Deeds::FindWounds.call(here, reads, found.merge(client_key: key), by: "Orla", today: World::TODAY)
    end
    expect(Vestry::Records::Wound.count).to eq 1
    expect(read("C10").first.why).to include "on the list already"
    expect { note("C10", found_on: World::TODAY + 1) }.to raise_error(Vestry::Deeds::Refused, /future/)
    expect { note("C10", happened_on: World::TODAY) }.to raise_error(Vestry::Deeds::Refused, /after it was found/)
    expect { note("C10", happened_on: Date.new(2023, 1, 10)) }
      .to raise_error(Vestry::Deeds::Refused, /more than three years before/)
  end

  it "judges by eye until it is measured" do
    expect([told.share, told.triage[:verdict]]).to eq [0.9, "needed"]
    measure
    expect(told.share).to be_within(1e-9).of(359 / 360.0)
    expect(told.places.size).to eq 10
  end

  it "places scions by hand, with lengths that follow the margins" do
    measure
    Vestry::Deeds::PlaceScions.call(wound, [90.0, 200.0], by: "Orla")
    expect(told.places.map { |place| [place[:bearing_deg], place[:gap_mm].round, place[:length_mm].round] })
      .to eq [[90.0, 120, 215], [200.0, 198, 295]]
    measure(MARGINS.map { |each| each[:bearing_deg] == 90 ? each.merge(high_mm: 280.0) : each })
    expect(told.places.first[:gap_mm]).to eq 220.0
    { [0.0] => /bark lives there/, [90.0, 90.0] => /twice/, [400.0] => /0 to 359/ }.each do |bearings, words|
      expect { Vestry::Deeds::PlaceScions.call(wound, bearings, by: "Orla") }
        .to raise_error(Vestry::Deeds::Refused, words)
    end
    expect(told.places.size).to eq 2
    Vestry::Deeds::PlaceScions.call(wound, nil, by: "Orla")
    expect(told.places.all? { |place| place[:row].nil? }).to be true
  end

  it "logs the scions that were set, takes whole shoots from their bundle, and sets one more later" do
    measure
    kind = variety(here)
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, source: "its own top",
                                            cut_on: Date.new(2026, 1, 21), length_mm: 900, whole_shoots: true)
    3.times { |i| Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: bundle.id, number: i + 1, diameter_mm: 9) }
    expect(told.shoots[:cuts].size).to eq 3
    # The first is held for a stub, and taken last.
    held = bundle.sticks_dataset.order(:number).get(:id)
    allow(Vestry::Records::StickLocks).to receive(:of).and_return(held => 1)
    log([{ bearing_deg: 90.0, thickness_mm: 9.0 }, { bearing_deg: 200.0, thickness_mm: nil }], bundle: bundle.id,
        shoots: 2)
    expect(Vestry::Records::Stick.where(bundle_id: bundle.id).here.select_map(:id)).to eq [held]
    expect { log([{ bearing_deg: 120.0 }], bundle: bundle.id, shoots: 5) }
      .to raise_error(Vestry::Deeds::Refused, /has only 1 left/)
    log([{ bearing_deg: 90.0 }])
    log([{ bearing_deg: 120.0 }], repaired_on: Date.new(2026, 5, 1))
    set = Vestry::Records::Wound[wound.id].seated
    expect(set.map { |row| [row.number, row.bearing_deg.to_i, row.set_on.iso8601] })
      .to eq [[1, 90, "2026-04-20"], [2, 200, "2026-04-20"], [3, 120, "2026-05-01"]]
    expect(Vestry::Records::Wound[wound.id].repaired_on).to eq Date.new(2026, 4, 20)
    expect { measure(MARGINS.first(3)) }.to raise_error(Vestry::Deeds::Refused, /were bridged/)
  end

  it "refuses a bridge before the margins, before the wound, and in the future" do
    expect { log([{ bearing_deg: 9.0 }]) }.to raise_error(Vestry::Deeds::Refused, /measure the margins first/)
    measure
    expect { log([]) }.to raise_error(Vestry::Deeds::Refused, /which were set/)
    expect { log([{ bearing_deg: 9.0 }], repaired_on: Date.new(2026, 1, 1)) }
      .to raise_error(Vestry::Deeds::Refused, /before the wound was found/)
    expect { log([{ bearing_deg: 9.0 }], repaired_on: World::TODAY + 1) }
      .to raise_error(Vestry::Deeds::Refused, /future/)
  end

  it "follows each scion's fate, and says what part of the wound they carry" do
    measure
    log([30, 66, 102, 138, 174, 210, 246, 282, 318, 354].map { |at| { bearing_deg: at.to_f } })
    rows = Vestry::Records::Wound[wound.id].seated
    visit = ->(day, dead) { Vestry::Deeds::VisitWound.call(Vestry::Records::Wound[wound.id],
                                                           { seen_on: day, leaves: "full" }, rows.to_h { |row| [row.id,
                                                             { fate: dead.include?(row.number) ? "dead" : "alive" }] },
                                                             by: "Orla", today: World::TODAY) }
    visit.call(Date.new(2026, 5, 10), [2])
    expect([told.living.size, told.mending[:state], told.mending[:dead]]).to eq [9, "holding", [rows[1].id]]
    visit.call(Date.new(2026, 5, 17), [1, 2, 3, 4, 5, 6])
    expect([told.living.size, told.mending[:state], told.carried.round(1)]).to eq [4, "failing", 0.4]
    expect(told(Date.new(2026, 5, 12)).living.size).to eq 9
    expect { visit.call(Date.new(2026, 4, 1), []) }.to raise_error(Vestry::Deeds::Refused, /before scion 1 was set/)
    other = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: tree(here).id, found_on: World::TODAY,
                                          girth_mm: 300)
    expect { Vestry::Deeds::VisitWound.call(other, { seen_on: World::TODAY }, { rows[0].id => { fate: "dead" } },
                                            by: "Orla", today: World::TODAY) }.to raise_error(Vestry::Deeds::Refused,
                                              /not of this bridge/)
  end

  it "judges inarched stocks by how many live where no margin was measured" do
    log([{ bearing_deg: 0.0 }, { bearing_deg: 180.0 }], course: "inarch")
    rows = Vestry::Records::Wound[wound.id].seated
    visit = ->(day, *fates) { Vestry::Deeds::VisitWound.call(Vestry::Records::Wound[wound.id],
                                                             { seen_on: day, leaves: "thin" }, rows.zip(fates)
                                                               .to_h { |row, fate| [row.id, { fate: fate }] },
                                                                     by: "Orla", today: World::TODAY) }
    visit.call(Date.new(2026, 5, 10), "alive", "dead")
    expect([told.carried, told.mending[:state]]).to eq [0.5, "holding"]
    visit.call(Date.new(2026, 5, 17), "dead", "dead")
    expect([told.carried, told.mending[:state]]).to eq [0.0, "failing"]
    expect(told.verdicts.map { |each| each.values_at(:on, :state, :living, :set) })
      .to eq [[Date.new(2026, 5, 10), "holding", 1, 2], [Date.new(2026, 5, 17), "failing", 0, 2]]
    days = [9, 10, 16, 17].map { |day| told(Date.new(2026, 5, day)).verdicts.map { |each| each[:on].day } }
    expect(days).to eq [[], [10], [10], [10, 17]]
  end

  it "dresses and cuts back without scions, and follows each" do
    Vestry::Deeds::LogRepair.call(wound, { repaired_on: Date.new(2026, 4, 20), course: "cut-back" }, by: "Orla",
                                  today: World::TODAY)
    expect([told.mending[:state], told.course, told.carried, told.settled?]).to eq ["cut", "cut-back", nil, true]
    expect(told.mending[:tasks].map { |task| task[:rule] }).to include("choose-shoot", "guard")
      .and(satisfy { |rules| (rules & %w[bridge seals support]).empty? })
  end

  it "takes off what stood above where a stem is cut, and sets the stump up as the trunk to log its graft on" do
    apple.update(height_mm: 2400)
    low, high = limb(apple, "A", fork_mm: 150), limb(apple, "B", fork_mm: 900)
    limb(apple, "C", parent_id: high.id, fork_mm: 300)
    trunk = limb(apple, "L", leader: true, fork_mm: 1200)
    measure([[0, 200, 320], [90, 200, 320], [180, 260, 300], [270, 240, 330]]
      .map { |at, bottom, top| { bearing_deg: at.to_f, low_mm: bottom.to_f, high_mm: top.to_f } })
    sites = { "T1" => 150.0, "T2" => 700.0 }.map do |tag, at|
      Vestry::Deeds::MarkSite.call(apple, { tag: tag, at_mm: at, bearing_deg: 90.0 }, by: "Orla")
    end
    day = Date.new(2026, 4, 20)
    cut = ->(**more) { Vestry::Deeds::LogRepair.call(wound, { repaired_on: day, course: "stump-graft" }.merge(more),
                                                     by: "Orla", today: World::TODAY) }
    expect { cut.call(left_mm: 0.0) }.to raise_error(Vestry::Deeds::Refused, /stands above the soil/)
    2.times { cut.call }
    rows = Vestry::Records::Limb.where(tree_id: apple.id).order(:tag).all
    expect(rows.map { |row| [row.tag, row.gone_on] })
      .to eq [["A", nil], ["B", day], ["C", day], ["L", day], ["S", nil]]
    expect(rows.last.values.values_at(:leader, :fork_mm, :length_mm, :girth_mm, :surveyed_on).map { |v| v.is_a?(
      BigDecimal) ? v.to_f : v }).to eq [true, 0.0, 200.0, 560.0, day]
    expect(sites.map { |site| site.reload.hidden? }).to eq [false, true]
    expect([told.stump&.tag, told.stump&.across_mm&.round, apple.reload.height_mm, low.reload.gone_on])
      .to eq ["S", 178, nil, nil]
    expect([trunk, high].map { |row| Vestry::Records::LimbEvent.where(limb_id: row.id).select_map(%i[kind left_mm]) })
      .to eq [[["headed", 0]], [["headed", 0]]]
  end

  it "takes a tree's height away with the stem, and not that of one no higher than its stump" do
    kept = [200, 201].map do |mm|
      apple.update(height_mm: mm)
      Vestry::Deeds::CutStem.call(Vestry::Records::Wound[wound.id], left_mm: 200.0, day: Date.new(2026, 4, 20),
                                                                    grafted: false, by: "Orla", today: World::TODAY)
      apple.reload.height_mm
    end
    expect(kept).to eq [200, nil]
  end

  it "notes a trunk that was stripped on the day it was found, or up to three years before" do
    on = World::TODAY
    noted = lambda do |happened_on|
      note("C10 bark none", happened_on: happened_on, found_on: on).each(&:delete)
    end
    expect([on, on << 36].map { |day| noted[day].size }).to eq [1, 1]
    expect { noted[on + 1] }.to raise_error(Vestry::Deeds::Refused, /after it was found/)
    expect { noted[(on << 36) - 1] }.to raise_error(Vestry::Deeds::Refused, /three years before/)
  end

  it "keeps of a leader what is below the cut, and asks how high a stump stands that nobody measured" do
    trunk = limb(apple, "L", leader: true, fork_mm: 100, length_mm: 1900)
    day = Date.new(2026, 4, 20)
    cut = ->(**more) { Vestry::Deeds::LogRepair.call(wound, { repaired_on: day, course: "stump-graft" }.merge(more),
                                                     by: "Orla", today: World::TODAY) }
    expect { cut.call }.to raise_error(Vestry::Deeds::Refused, /how high the stump stands/)
    cut.call(left_mm: 250.0)
    expect([trunk.reload.gone_on, trunk.length_mm.to_f, told.stump&.tag]).to eq [nil, 150.0, "L"]
  end

  it "counts bare wood as covered from the day it was first covered or dressed, and not by being bridged" do
    dress = lambda do |course, on|
      Vestry::Deeds::LogRepair.call(Vestry::Records::Wound[wound.id], { repaired_on: on, course: course }, by: "Orla",
                                    today: Date.new(2026, 5, 30))
      Vestry::Records::Wound[wound.id].covered_on
    end
    days = [20, 25, 28].map { |day| Date.new(2026, 4, day) }
    expect([dress["cut-back", days[0]], dress["dress", days[1]], dress["dress", days[2]]])
      .to eq [nil, days[1], days[1]]
  end

  it "settles a wound's tasks, puts one off with a reason, and takes back" do
    settle = ->(key, what, **more) { Vestry::Deeds::SettleTask.call(Vestry::Records::Wound[wound.id], key, what,
                                                                    by: "Orla", today: World::TODAY, **more) }
    status = ->(key) { told.mending[:tasks].find { |task| task[:key] == key }&.values_at(:status, :opens_on) }
    expect { settle.call("dig", "put-off", until_on: World::TODAY, why: "frost") }
      .to raise_error(Vestry::Deeds::Refused, /after today/)
    expect { settle.call("dig", "put-off", until_on: World::TODAY + 9) }
      .to raise_error(Vestry::Deeds::Refused, /say why/)
    settle.call("dig", "put-off", until_on: World::TODAY + 9, why: "frozen ground")
    expect(status.call("dig")).to eq ["ahead", World::TODAY + 9]
    2.times { settle.call("dig", "done") }
    expect(status.call("dig").first).to eq "done"
    expect(Vestry::Records::TaskDone.in_sight.count).to eq 1
    Vestry::Deeds::SettleTask.undo(wound, "dig", by: "Orla")
    expect(status.call("dig").first).not_to eq "done"
    expect { settle.call("nonsense", "done") }.to raise_error(Vestry::Deeds::Refused)
  end

  it "keeps to its orchard, and to what can be" do
    refuses = ->(error = Sequel::CheckConstraintViolation,
                 &block) { expect { Vestry::DB.transaction(savepoint: true, &block) }.to raise_error(error) }
    there = orchard
    id = wound.id
    refuses.call(Sequel::ForeignKeyConstraintViolation) do
      Vestry::Records::Wound.create(orchard_id: there.id, tree_id: apple.id, found_on: World::TODAY, girth_mm: 1)
    end
    refuses.call do
      Vestry::DB[:wound_margins].insert(orchard_id: here.id, wound_id: id, bearing_deg: 5, low_mm: 10, high_mm: 5)
    end
    refuses.call do
      Vestry::Records::Wound.create(orchard_id: here.id, tree_id: apple.id, found_on: World::TODAY, girth_mm: 1,
                                    repaired_on: World::TODAY - 1)
    end
    refuses.call do
      Vestry::DB[:tasks_done].insert(orchard_id: here.id, key: "dig", done_on: World::TODAY, what: "done")
    end
    refuses.call do
      Vestry::DB[:tasks_done].insert(orchard_id: here.id, wound_id: id, key: "dig", done_on: World::TODAY,
                                     what: "put-off")
    end
    expect { there.wound!(id) }.to raise_error(Vestry::Records::Missing)
    Vestry::Deeds::Hide.call(apple, by: "Orla")
    expect(here.stripped_trunks(World::TODAY).all).to eq []
  end
end
