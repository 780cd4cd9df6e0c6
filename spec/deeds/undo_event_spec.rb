# frozen_string_literal: true

# What stands beside a row is put back as well: margins, scions, whole shoots, a cut stem, the crew's day.
RSpec.describe Vestry::Deeds::UndoEvent do
  let!(:here) { orchard }
  let!(:apple) { tree(here, row: "C", number: 10, trunk_girth_mm: 560) }
  let!(:who) { person("Orla Finch", steward: here) }
  let(:today) { World::TODAY }
  let(:wound) do
    Vestry::Records::Wound.create(orchard_id: here.id, tree_id: apple.id, cause: "teeth", girth_mm: 560,
                                  found_on: Date.new(2026, 1, 20))
  end
  let(:exact) { run(low: 60.25) }

  def run(low: 60.0, high: 180.0)
    [[0, 100, 100], [90, low, high], [180, 40, 260], [270, 80, 200]]
      .map { |at, from, to| { bearing_deg: at.to_f, low_mm: from.to_f, high_mm: to.to_f } }
  end

  def deed(&block) = SecureRandom.uuid.tap { |name| Vestry::Records::HistoryLog.as_one(name, &block) }
  def offered?(name)
    Vestry::Deeds::UndoDeed.offered?(Vestry::Records::HistoryQueries.of_deed(here, name), who)
  end

  # @return [String] the deed that undid it, which can be undone in its turn
  def undo(name)
    expect(offered?(name)).to be true
    deed do
      Vestry::Deeds::UndoDeed.call(Vestry::Records::Orchard[here.id], name,
                                   member: Vestry::Records::Membership.between(who, here))
    end
  end

  def refuse(name) = expect { undo(name) }.to raise_error(Vestry::Deeds::Refused, /was changed since/)
  def fresh = Vestry::Records::Wound[wound.id]
  def measure(readings = exact) = deed { Vestry::Deeds::MeasureWound.call(fresh, {}, readings, by: "Orla Finch") }
  def place(*bearings) = deed { Vestry::Deeds::PlaceScions.call(fresh, bearings, by: "Orla Finch") }
  def mend(course, **more)
    deed do
      Vestry::Deeds::LogRepair.call(fresh, { repaired_on: Date.new(2026, 4, 20), course: course }.merge(more),
                                    by: "Orla Finch", today: today)
    end
  end

  def placed = fresh.scions.map { |row| [row.number, row.bearing_deg.to_f, row.set_on&.day] }

  it "puts margins back as they were measured, and forth" do
    first, second = measure, measure(run(low: 70, high: 300))
    undone = undo(second)
    expect(fresh.margins).to eq exact
    again = undo(undone)
    expect(fresh.margins).to eq run(low: 70, high: 300)
    refuse(first)
    undo(again)
    undo(first)
    expect([fresh.margins, fresh.measured?]).to eq [[], false]
  end

  it "leaves the first margins while scions are placed by them, and all of them once it is bridged" do
    first = measure
    places = place(90.0)
    refuse(first)
    undo(places)
    second = measure(run(low: 70))
    mend("bridge", scions: [{ bearing_deg: 90.0 }])
    refuse(second)
    expect(fresh.margins).to eq run(low: 70)
  end

  it "puts scions back where they were placed" do
    measure
    place(90.0, 200.0)
    undo(place(120.0))
    expect(placed).to eq [[1, 90.0, nil], [2, 200.0, nil]]
  end

  def shoots
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: variety(here).id, source: "its own top",
                                            cut_on: Date.new(2026, 1, 21), length_mm: 900, whole_shoots: true)
    4.times { |i| Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: bundle.id, number: i + 1, diameter_mm: 9) }
    bundle
  end

  it "takes back a bridge whole: its scions, its day, and the shoots that went into it" do
    measure
    place(90.0)
    wood = shoots
    left = -> { Vestry::Records::Stick.where(bundle_id: wood.id).here.select_order_map(:number) }
    bridged = mend("bridge", scions: [{ bearing_deg: 90.0 }, { bearing_deg: 200.0 }], bundle: wood.id, shoots: 3)
    expect([placed, left.call.size]).to eq [[[1, 90.0, 20], [2, 200.0, 20]], 1]
    undone = undo(bridged)
    expect([placed, left[], fresh.repaired_on, fresh.course]).to eq [[[1, 90.0, nil]], [1, 2, 3, 4], nil, nil]
    # Which shoots go into it again is for whoever logs it again.
    expect(offered?(undone)).to be false
  end

  it "puts sticks that were split off back under their own numbers, while none of them went anywhere" do
    wood = shoots
    numbers = -> { wood.sticks_dataset.order(:number).select_map(%i[id number]) }
    before = numbers.call
    off = ->(count) { deed { Vestry::Deeds::MoveSticks.split(wood, count, by: "Orla Finch") } }
    one, two = off[1], off[2]
    undo(two)
    undo(one)
    expect(numbers.call).to eq before
    again = off[1]
    part = Vestry::Records::Bundle.order(:id).last
    Vestry::Deeds::MoveSticks.send_off(part, 1, "lent", to: "next door", on: today, by: "Orla Finch")
    refuse(again)
  end

  it "leaves a bridge of which a scion was looked at since" do
    measure
    bridged = mend("bridge", scions: [{ bearing_deg: 90.0 }])
    visit = deed do
      Vestry::Deeds::VisitWound.call(fresh, { seen_on: Date.new(2026, 5, 10), leaves: "full" },
                                     { fresh.seated.first.id => { fate: "alive" } }, by: "Orla Finch", today: today)
    end
    refuse(bridged)
    expect(fresh.repaired_on).to eq Date.new(2026, 4, 20)
    undo(visit)
    undo(bridged)
    expect([fresh.repaired_on, placed]).to eq [nil, []]
  end

  it "sets a stem that was cut by mistake upright again, and takes its stump out of the survey" do
    lead = limb(apple, "L", leader: true, fork_mm: 0, length_mm: 3000, girth_mm: 500, rise_deg: 88)
    side = limb(apple, "A", fork_mm: 1200)
    cut = mend("stump-graft", left_mm: 150.0, scions: nil)
    expect([lead, side].map { |row| [row.reload.gone_on, row.length_mm.to_f] })
      .to eq [[nil, 150.0], [Date.new(2026, 4, 20), 2400.0]]
    undo(cut)
    expect([lead, side].map { |row| [row.reload.gone_on, row.length_mm.to_f] }).to eq [[nil, 3000.0], [nil, 2400.0]]
    lead.update(hidden_at: Time.now)
    stump = mend("stump-graft", left_mm: 150.0, scions: nil)
    expect(apple.reload.standing_limbs.map(&:tag)).to eq %w[S]
    undo(stump)
    expect([apple.reload.standing_limbs.map(&:tag), fresh.repaired_on]).to eq [%w[A], nil]
  end

  it "puts the crew's hours of a day back, to the ordinary where nobody had said" do
    day = today + 2
    said = -> { Vestry::DB[:crew_days].where(orchard_id: here.id, day: day).select_map(%i[hours grafters]) }
    settle = lambda do |hours|
      deed { Vestry::Deeds::SettleCrew.day(here, day, hours: hours, grafters: 2, by: "Orla Finch") }
    end
    first, second = settle[5], settle[4.5]
    refuse(first)
    again = undo(undo(second))
    expect(said[]).to eq [[4.5, 2]]
    undo(again)
    expect(said[]).to eq [[5.0, 2]]
    undo(first)
    expect(said[]).to eq []
  end

  def decided
    kind = variety(here)
    Vestry::Deeds::DecideLimb.call(limb(apple, "A"), { role: "work", technique: "rind", cut: 900, variety: kind.id },
                                   by: "Orla Finch", season: 2026)
    Vestry::Records::PlanLimb.first(role: "work")
  end

  it "puts a stub back on the day it was settled to; not one that was let go from a day that was begun" do
    row = decided
    settle = ->(day) { deed { Vestry::Deeds::SettleCrew.fix(row, day, by: "Orla Finch", today: today) } }
    on = -> { Vestry::DB[:crew_fixed].where(plan_limb_id: row.id).get(:day) }
    first, second = settle[today + 1], settle[today + 3]
    refuse(first)
    undo(second)
    expect(on[]).to eq today + 1
    undo(first)
    expect(on[]).to be_nil
    Vestry::DB[:begun_sheets].insert(orchard_id: here.id, day: today, plan_limb_id: row.id)
    expect(offered?(settle[nil])).to be false
  end

  it "undoes the hours of a day as they stand when its turn comes" do
    day = today + 2
    settle = ->(hours) { Vestry::Deeds::SettleCrew.day(here, day, hours: hours, grafters: 2, by: "Orla Finch") }
    name = deed { settle[5] }
    expect(second_of_two(-> { settle[3] }, -> { undo(name) })).to match(deed: [/was changed since/])
    expect(Vestry::DB[:crew_days].get(:hours)).to eq 3.0
  end
end
