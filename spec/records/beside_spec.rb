# frozen_string_literal: true

# More grafts than one on a limb: what stands beside another is followed with it, and what is made over it ends it.
RSpec.describe "Several grafts on a limb" do
  let(:here) { orchard }
  let(:stem) { limb(tree(here), "A", girth_mm: 230, length_mm: 2000) }
  let(:spring) { Date.new(2026, 4, 25) }

  def set(technique, cut, on)
    graft(stem, technique: technique, cut_mm: cut, grafted_on: on, sticks: 1)
  end

  # Which of them are looked after on a day.
  def followed(grafts, on)
    Vestry::Records::CareSchedule.begin_again
    Vestry::Records::CareSchedule.refresh(Vestry::Records::Orchard[here.id], on)
    ids = Vestry::DB[:care_states].exclude(state: nil).select_map(:graft_id)
    grafts.map { |each| ids.include?(each.id) }
  end

  def lost(made, on) = Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: on,
                                                     verdict: "failed", seen_by: "Orla")

  it "follows each of two that were set on one stub, and the last of two that cut it anew" do
    first = set("bark", 600, spring)
    beside = set("bark", 600, spring + 20)
    expect(followed([first, beside], spring + 40)).to eq [true, true]
    rows = -> { Vestry::Records::CountRow.new(here, "A", 2026).lines.map(&:id) }
    expect(rows.call).to match_array [first.id, beside.id]
    counted = Vestry::Records::GraftQueries.limbs_of(first.variety, spring + 40)
    expect(counted).to eq 1
    lower = set("bark", 560, spring + 45)
    expect(rows.call).to eq [lower.id]
    expect(followed([first, beside, lower], spring + 50)).to eq [false, false, true]
    again = set("bark", 560, spring + 400)
    expect(followed([lower, again], spring + 410)).to eq [false, true]
  end

  it "follows a stick that sleeps and the bud that is set below it as insurance, on the stub that is there" do
    stick = set("rind", 600, spring)
    bud = set("chip-bud", 300, Date.new(2026, 8, 10))
    expect(followed([stick, bud], Date.new(2026, 8, 20))).to eq [true, true]
    others = [stick, bud].map do |one|
      Vestry::Records::GraftsOfLimb.beside(Vestry::Records::Graft[one.id], Date.new(2026, 8, 20)).map(&:id)
    end
    expect(others).to eq [[bud.id], [stick.id]]
    expect([stem.reload.graft.id, bud.head_off?, stick.head_off?]).to eq [bud.id, true, true]
    drawn = Vestry::Drawings::DrawnLimb.of(stem, planning: 2026)
    expect([drawn.cut_mm, drawn.seat_mm]).to eq [600, 300]
    # Seen from above it ends there, too.
    crown = Vestry::Records::Crowns.of(here, [stem.tree_id], planning: 2026).fetch(stem.tree_id).first
    expect(Math.hypot(*crown.cut) / Math.hypot(*crown.to)).to be_within(1e-9).of(600 / 2000.0)
    bud.update(lost_on: Date.new(2026, 8, 30), lost_cause: "failed")
    expect(stem.reload.graft.id).to eq stick.id
    latest = Vestry::Records::GraftQueries.latest_grafts(here.id).select_map(Sequel[:latest][:id])
    expect(latest).to eq [stick.id]
  end

  it "follows the bud by which a lost stick is made good, and the stick no more; the head stays off" do
    stick = set("rind", 600, spring)
    lost(stick, spring + 60)
    expect(followed([stick], Date.new(2026, 8, 1))).to eq [true]
    bud = set("chip-bud", 300, Date.new(2026, 8, 10))
    expect(followed([stick, bud], Date.new(2026, 8, 20))).to eq [false, true]
    expect(Vestry::Drawings::DrawnLimb.of(stem.reload, planning: 2026).cut_mm).to eq 600
    expect(Vestry::Records::TreePlan.new(Vestry::Records::Tree[stem.tree_id], World::TODAY).heads?(stem)).to be true
  end

  # What is said of a graft and its limb on a day: the answer, what its page and the agenda ask, and the limb's graft.
  def said(made, on)
    report = Vestry::Records::GraftReport.new(Vestry::Records::Graft[made.id], on)
    agenda = Vestry::Records::Agenda.new(Vestry::Records::Orchard[here.id], on)
    open = report.care[:tasks].select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:key] }
    asked = agenda.due.select { |item| item.of.id == made.id }.map { |item| item.task[:key] }
    expect(asked).to match_array open
    [report.answer.first&.fetch(:code), asked.grep(/regraft/), Vestry::Records::Limb[stem.id].graft.id]
  end

  def again(made, on) = Vestry::Deeds::Regraft.call(Vestry::Records::Graft[made.id], by: "Orla", today: on)

  it "joins a plant that died again above its old faces, and never beyond the limb's end" do
    [[600, 720.0], [2390, 2390.0]].each do |at, again_at|
      joined = graft(limb(tree(here), "Z", girth_mm: 90), technique: "approach", sticks: 1, grafted_on: spring,
                                                          cut_mm: at, stub_mm: 24)
      lost(joined, spring + 25)
      expect([at, again(joined, spring + 26).cut_mm]).to eq [at, again_at]
    end
  end

  it "cuts no stub back on which another lives, and says so; when that one dies too, it is worked again" do
    first, beside = set("bark", 600, spring), set("bark", 600, spring)
    expect(said(beside, spring + 20).last).to eq beside.id
    lost(beside, spring + 25)
    expect(said(beside, spring + 26)).to eq ["answer_mate", [], first.id]
    headline = Vestry::Web::Headline.new(Vestry::Records::Orchard[here.id], spring + 26)
    expect(headline.limb(Vestry::Records::Limb[stem.id])).not_to include "Dead"
    # The dead one's own page is headed by what became of it, and the other's by that one.
    heads = [first, beside].map do |each|
      headline.of_graft(Vestry::Records::Graft[each.id],
                         Vestry::Records::GraftReport.new(Vestry::Records::Graft[each.id], spring + 26))
    end
    expect(heads).to match [a_string_matching(/first look/), a_string_including("take the dead sticks out")]
    expect { again(beside, spring + 26) }.to raise_error(Vestry::Deeds::Refused, /not to be made again/)
    lost(first, spring + 30)
    expect(said(beside, spring + 31)).to match ["answer_regraft_no_wood", [/regraft/], beside.id]
    expect(said(first, spring + 31)).to eq ["answer_followed", [], beside.id]
    expect { again(first, spring + 31) }.to raise_error(Vestry::Deeds::Refused, /not to be made again/)
    expect(again(beside, spring + 31).cut_mm).to eq 540
  end

  it "asks nothing more of one that was followed, on its page either" do
    first = set("bark", 600, spring)
    lost(first, spring + 25)
    expect(said(first, spring + 26)).to match ["answer_regraft_no_wood", [/regraft/], first.id]
    lower = set("bark", 540, spring + 27)
    expect(said(first, spring + 28)).to eq ["answer_followed", [], lower.id]
  end

  # Two or three on a limb, by method, cut, day and fate.
  def histories
    one = %w[bark chip-bud].product([600, 600.5, 560], [0, 20, 300], %i[lives seen told])
    seed = Random.new(7)
    Array.new(90) { Array.new(seed.rand(2..3)) { one.sample(random: seed) }.sort_by { |each| each[2] } }
  end

  it "has the same graft stand for a limb in Ruby and in SQL, whatever befell them" do
    said = histories.map do |grafts|
      branch = limb(stem.tree, "L#{Vestry::Records::Limb.max(:id)}", bearing_deg: 90)
      grafts.each do |technique, cut, days, fate|
        made = graft(branch, technique: technique, cut_mm: cut, grafted_on: spring + days,
                             **(fate == :told ? { lost_on: spring + days + 30, lost_cause: "failed" } : {}))
        lost(made, spring + days + 30) if fate == :seen
      end
      branch.id
    end
    latest = Vestry::Records::GraftQueries.latest_grafts(here.id)
      .select_map([Sequel[:limbs][:id].as(:limb), Sequel[:latest][:id].as(:graft)]).to_h
    ruby = said.to_h { |id| [id, Vestry::Records::Limb[id].graft.id] }
    expect(latest.slice(*said)).to eq ruby
    last = Vestry::DB[:grafts].group(:limb_id).select_hash(:limb_id, Sequel.function(:max, :id).as(:last))
    expect(ruby.count { |id, stands| stands != last[id] }).to be > 10
  end

  it "ends what stands in the side of a limb that is cut below it, and leaves what stands lower" do
    low, high = set("side-bark", 300, spring), set("side-bark", 900, spring)
    stub = set("bark", 600, spring + 10)
    expect(followed([low, high, stub], spring + 20)).to eq [true, false, true]
  end
end
