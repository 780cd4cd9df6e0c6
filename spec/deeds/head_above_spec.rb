# frozen_string_literal: true

# What was set into a side, into a shoot or beside one has its head cut off above it in time: the limb ends there then,
# and the graft is none the worse.
RSpec.describe Vestry::Deeds::HeadAbove do
  let(:here) { orchard }
  let(:stem) { limb(tree(here), "A", girth_mm: 230, length_mm: 2000) }
  let(:today) { Date.new(2027, 1, 20) }
  let!(:made) do
    graft(stem, technique: "side-bark", sticks: 1, grafted_on: Date.new(2026, 4, 25), cut_mm: 500).tap do |row|
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: row.id, seen_on: Date.new(2026, 7, 1),
                                    verdict: "took", seen_by: "Orla")
    end
  end
  let!(:branch) { limb(stem.tree, "A1", parent_id: stem.id, fork_mm: 900, girth_mm: 60) }

  def stands
    row = Vestry::Records::Graft[made.id]
    [row.fate, row.head_off?, row.limb.length_mm, branch.reload.gone_on]
  end

  def head(left) = Vestry::Deeds::RecordLimbEvent.call(stem, { kind: "headed", happened_on: today, left_mm: left },
                                                       by: "Orla", today: today)

  it "ends the limb above the graft when its task is done, takes off what left it there, and gives both back" do
    tasks = Vestry::Records::CoreInputs.care(made, today)[:tasks].map { |task| task[:key] }
    expect(tasks).to include "side-off"
    Vestry::Deeds::SettleTask.call(made, "side-off", "done", by: "Orla", today: today)
    expect(stands).to eq ["took", true, 520, today]
    expect(Vestry::Records::BrokenLimbs.of(here, today)).to eq []
    2.times { Vestry::Deeds::SettleTask.undo(made, "side-off", by: "Orla") }
    expect(stands).to eq ["took", false, 2000, nil]
    Vestry::Deeds::SettleTask.call(made, "side-off", "waived", by: "Orla", today: today)
    expect(stands).to eq ["took", false, 2000, nil]
  end

  it "heads a stock above its bud, and no limb that ends there already" do
    shoot = limb(stem.tree, "B", girth_mm: 40, length_mm: 600)
    bud = graft(shoot, technique: "chip-bud", sticks: 1, grafted_on: Date.new(2026, 8, 10), cut_mm: 200)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: bud.id, seen_on: Date.new(2026, 8, 28),
                                  leaf_stalk: "falls", seen_by: "Orla")
    spring = Date.new(2027, 3, 25)
    Vestry::Deeds::SettleTask.call(bud, "bud-head", "done", by: "Orla", today: spring)
    expect([shoot.reload.length_mm, bud.reload.fate]).to eq [220, "waiting"]
    short = limb(stem.tree, "C", girth_mm: 40, length_mm: 210)
    other = graft(short, technique: "chip-bud", sticks: 1, grafted_on: Date.new(2026, 8, 10), cut_mm: 200)
    Vestry::Deeds::SettleTask.call(other, "bud-head", "done", by: "Orla", today: spring)
    expect([short.reload.length_mm, Vestry::Records::LimbEvent.where(limb_id: short.id).count]).to eq [210, 0]
  end

  it "takes the stick with it that stands on the stub above" do
    stub = limb(stem.tree, "D", girth_mm: 230, length_mm: 2000)
    stick = graft(stub, technique: "rind", sticks: 1, grafted_on: Date.new(2026, 4, 25), cut_mm: 600)
    bud, near = [300, 590].map do |at|
      graft(stub, technique: "chip-bud", sticks: 1, grafted_on: Date.new(2026, 8, 10), cut_mm: at)
    end
    spring = Date.new(2027, 3, 25)
    # So close below the stub there is no head to be cut off.
    asked = [bud, near].map do |each|
      Vestry::Records::CoreInputs.care(each, spring)[:tasks].any? { |task| task[:rule] == "bud-head" }
    end
    expect(asked).to eq [true, false]
    # Where that stick died, a bud near it is in a shoot that grew since.
    Vestry::DB.transaction(rollback: :always, savepoint: true) do
      stick.update(lost_on: Date.new(2026, 6, 20), lost_cause: "failed")
      told = Vestry::Records::CoreInputs.care(near, spring)[:tasks].map { |task| task[:rule] }
      expect(told).to include("bud-head").and(satisfy { |rules| (rules & %w[year-one-shoot brace-after-year]).empty? })
    end
    Vestry::Deeds::SettleTask.call(bud, "bud-head", "done", by: "Orla", today: spring)
    expect([stick, near, bud].map { |each| each.reload.lost_on }).to eq [spring, spring, nil]
  end

  it "is told of many at once as of one: headed above, at, and below what was set, and far above it" do
    most = here.rulebook.value("reckoning.cuts.snag_most")
    [nil, 499.0, 500.0, 700.0, 701.0, 900.0].each_with_index do |left, place|
      one = limb(stem.tree, "S#{place}", length_mm: 2000)
      side = graft(one, technique: "side-bark", sticks: 1, grafted_on: Date.new(2026, 4, 25), cut_mm: 500)
      if left
        Vestry::Records::LimbEvent.create(orchard_id: here.id, limb_id: one.id, kind: "headed", left_mm: left,
                                          happened_on: today, by: "Orla", changes: Sequel.pg_jsonb([]))
      end
      said = [today - 1, today].map do |day|
        Vestry::Records::Graft.where(id: side.id)
          .get(Vestry::Records::GraftsOfLimb.head_off(day, most).as(:off))
      end
      expect([left, *said]).to eq [left, *[today - 1, today].map { |day| side.reload.head_off?(day) }]
    end
  end

  it "leaves a graft in a side where the limb is headed or breaks above it, and loses it where it breaks below" do
    head(701.0)
    expect(stands).to eq ["took", false, 701, today]
    head(700.0)
    expect(stands).to eq ["took", true, 700, today]
    Vestry::Deeds::RecordLimbEvent.call(stem, { kind: "broken", happened_on: today, left_mm: 499.0 }, by: "Orla",
                                        today: today)
    expect(stands.first).to eq "lost"
  end

  it "loses what stood on a limb that came off whole" do
    head(0.0)
    expect([stands.first, stem.reload.gone_on]).to eq ["lost", today]
  end
end
