# frozen_string_literal: true

# A limb whose graft was lost and which is decided again is work of its plan: it waits for its season, takes nothing of
# the head any more, and comes back from then on.
RSpec.describe "A limb that is worked again" do
  let(:here) { orchard }
  let(:today) { Date.new(2026, 12, 10) }
  let(:stock) { tree(here) }
  let!(:limbs) do
    { "A" => 0, "B" => 90, "C" => 180, "D" => 270 }.map do |tag, bearing|
      limb(stock, tag, bearing_deg: bearing, girth_mm: 250, length_mm: 2400)
    end
  end
  let!(:kind) { variety(here) }

  before do
    [0, 3].each do |at|
      Vestry::Deeds::DecideLimb.call(limbs[at], { role: "nurse" }, by: "Orla", season: 2026)
    end
    [1, 2].each { |at| decide(limbs[at], season: 2026) }
    @took = graft(limbs[1], grafted_on: Date.new(2026, 4, 20), cut_mm: 900, variety_id: kind.id)
    @lost = graft(limbs[2], grafted_on: Date.new(2026, 4, 20), cut_mm: 900, variety_id: kind.id)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: @took.id, seen_on: Date.new(2026, 8, 1),
                                  verdict: "took")
    Vestry::Deeds::RecordLoss.call(@lost, on: Date.new(2026, 8, 1), cause: "failed", by: "Orla", today: today)
  end

  def decide(limb, **said)
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[limb.id],
                                   { role: "work", technique: "rind", cut: 900, variety: kind.id, practice: "pair",
                                     against_reason: "for trial" }.merge(said), by: "Orla", season: 2026)
  end

  def again = decide(limbs[2], season: 2027, cut: 840)
  def plan = Vestry::Records::TreePlan.new(Vestry::Records::Tree[stock.id], today)

  it "is no work while nothing is decided since, and work in its season from then on" do
    expect(plan.work.map(&:tag)).to eq []
    again
    expect([plan.work.map(&:tag), plan.fresh_work, plan.seasons, plan.taken(2027)]).to eq [%w[C], [], [2027], 0.0]
    decide(limbs[0], season: 2027, cut: 800)
    expect([plan.work.map(&:tag), plan.fresh_work.map(&:tag)]).to eq [%w[A C], %w[A]]
    expect(plan.taken(2027)).to be_within(1e-9).of(plan.share(limbs[0]))
    expect(plan.cut_in(2027).map(&:tag)).to eq %w[A]
  end

  # Its head is off since 2026, and a quarter of the tree: by the figures of the rulebook.
  it "drives the roots' shoots as one more stub, and is foreseen from its season on without its old wood" do
    before = plan.projected("standing")[:work].to_h { |each| [each[:id], each] }
    expect(before[limbs[2].id]).to include(season: -1, take: 0.0, headed: false)
    again
    told = plan
    work = told.projected("standing")[:work].to_h { |each| [each[:id], each] }
    expect(work[limbs[1].id]).to include(season: -1, take: 1.0, headed: false)
    expect(work[limbs[2].id]).to include(season: 0, headed: true, share: before[limbs[2].id][:share])
    share, take = work[limbs[2].id].values_at(:share, :take)
    rows = Vestry::Records::TreePace.new(told).projections["standing"][:seasons]
    kept = 1 - work.values.sum { |each| each[:share] }
    took = work[limbs[1].id][:share]
    # By the section of a shoot at its foot, 6 mm more on each side every year, against that of its stub.
    back = lambda do |limb, age|
      [((2.5 + 0.0095 * work[limb.id][:shoot_mm] + 12 * age) / work[limb.id][:stub_mm])**2, 1].min
    end
    grown = [0, 1].map { |n| kept + (took * back[limbs[1], n + 1]) + (share * take * back[limbs[2], n]) }
    expect(rows.first(2).map { |row| row[:canopy] }).to match(grown.map { |each| be_within(1e-9).of(each) })
    expect(rows.first(2).map { |row| [row[:removed], row[:stubs]] }).to eq [[0.0, 1], [0.0, 0]]
    push = 1 / (told.kept(2027) + 0.04)
    expect(told.vigour(2027)[:push]).to be_within(1e-9).of(push)
    expect(Vestry::Records::TreePace.new(told).ways).to eq []
    future = Vestry::Records::TreePace.new(told).foresights["standing"]
    expect(future[:seasons].first[:living][:p90]).to be < rows.first[:old] + 0.4
    expect(future[:seasons].last[:living][:p50]).to be > future[:seasons].first[:living][:p50] + (share / 2)
  end

  it "can be taken on, found different, left undone and set, as one that was never grafted" do
    on = ->(mine) { Vestry::Deeds::TakeOnLimb.call(Vestry::Records::Limb[limbs[2].id], by: "Orla", mine: mine) }
    expect { on[true] }.to raise_error(Vestry::Deeds::Refused, /not to be worked/)
    again
    expect(on[true].hand).to eq "Orla"
    line = Vestry::Web::Headline.new(Vestry::Records::Orchard[here.id], Date.new(2027, 5, 2))
    expect(line.bench(Vestry::Records::Limb[limbs[2].id])).to include "rind graft", "at 840 mm. Change what came out"
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[limbs[2].id], { role: "nurse" }, by: "Orla", season: 2027)
    expect { on[true] }.to raise_error(Vestry::Deeds::Refused, /not to be worked/)
    expect(on[false].hand).to be_nil
  end

  it "is worked as for the first time where what was lost was set into its side, and its head is on" do
    @lost.update(technique: "side-bark", lost_on: Date.new(2026, 8, 1))
    again
    told = plan
    expect([told.work.map(&:tag), told.fresh_work.map(&:tag), told.cut_in(2027).map(&:tag)]).to eq [%w[C]] * 3
    expect(told.taken(2027)).to be_within(1e-9).of(told.share(limbs[2]))
    expect(told.projected("standing")[:work].last).to include(id: limbs[2].id, season: 0, headed: false)
    expect(told.kept(2026)).to be > told.kept(2027) + (told.share(limbs[2]) / 2)
    expect(Vestry::Records::TreePace.new(told).ways.map(&:count)).to eq [1]
  end

  it "is allotted as a limb of which nothing more comes off" do
    again
    decide(limbs[0], season: 2027, cut: 800)
    asked = Vestry::Records::AllotmentInput.new(Vestry::Records::Orchard[here.id], today, { "seasons" => 2 }).question
    tree = asked[:trees].first
    expect(tree[:limbs].to_h { |each| [each[:id], each[:headed]] }).to eq(limbs[0].id => false, limbs[2].id => true)
    fresh = tree[:limbs].find { |each| !each[:headed] }[:share]
    expect(tree[:cap]).to eq [here.rulebook.value("reckoning.allot.cap"), fresh].max
  end

  it "is drawn as lost with a tick where it is cut back, and grafted anew from its season on" do
    drawn = lambda do |**way|
      Vestry::Drawings::DrawnLimb.all(Vestry::Records::Tree[stock.id], **way, planning: 2026)
        .find { |each| each.limb.tag == "C" }
    end
    at = %i[state cut_mm to_cut_mm coming fate]
    expect(at.map { |name| drawn[].public_send(name) }).to eq ["lost", 900.0, nil, nil, "lost"]
    again
    expect(at.map { |name| drawn[].public_send(name) }).to eq ["lost", 900.0, 840.0, nil, "lost"]
    expect(at.map { |name| drawn[after: 2027].public_send(name) }).to eq ["coming", 840.0, nil, true, nil]
    expect(drawn[year: 2030, now: 2026].shoot_mm).to be > 300
    limbs = Vestry::Drawings::DrawnLimb.all(Vestry::Records::Tree[stock.id], planning: 2026)
    svg = Vestry::Drawings::Elevation.new(Vestry::Records::Tree[stock.id], limbs).svg
    expect(svg).to include "graft lost, to be worked again"
  end

  it "is drawn as lifted where that is decided since, and is gone from its season on" do
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[limbs[2].id], { role: "lift" }, by: "Orla", season: 2027)
    drawn = lambda do |**way|
      Vestry::Drawings::DrawnLimb.all(Vestry::Records::Tree[stock.id], **way, planning: 2026)
        .find { |each| each.limb.tag == "C" }
    end
    expect([drawn[].state, drawn[].cut_mm, drawn[after: 2027]]).to eq ["lift", 900.0, nil]
  end

  # What its graft's page, the agenda and the headline say of it, and whether it is on the season's cut list.
  def said
    report = Vestry::Records::GraftReport.new(Vestry::Records::Graft[@lost.id], today)
    fresh = Vestry::Records::Orchard[here.id]
    asked = Vestry::Records::Agenda.new(fresh, today).due.select { |item| item.of.id == @lost.id }
    [report.answer.first[:code], asked.map { |item| item.task[:rule] },
     Vestry::Web::Headline.new(fresh, today).limb(Vestry::Records::Limb[limbs[2].id]),
     Vestry::Records::PlanQueries.cut_list(here, 2027).select_map(Sequel[:plan_limbs][:limb_id]).include?(limbs[2].id)]
  end

  it "asks for no other graft of a limb that is to come off, or has another role, since: everybody says which" do
    expect(said).to match ["answer_this_spring", %w[regraft-spring], /Dead\. Plan it again/, false]
    { "lift" => [/is to come off/, true], "renew" => [/is headed back/, true],
      "nurse" => [/ kept as a nurse/, false] }.each do |role, (words, sawn)|
      Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[limbs[2].id], { role: role }, by: "Orla", season: 2027)
      expect(said).to match ["answer_decided", [], words, sawn]
    end
  end

  it "is cut in the fresh wood that is left of its stub, and nowhere beyond it" do
    spot = -> { Vestry::Records::CoreInputs.cut_point(Vestry::Records::Limb[limbs[2].id], "rind") }
    expect(spot[].values_at(:feasible, :to_mm)).to eq [true, 840.0]
    expect(Vestry::Records::CoreInputs.cut_point(Vestry::Records::Limb[limbs[0].id], "rind")[:to_mm]).to be > 1200
    @lost.update(cut_mm: 600)
    expect(spot[].values_at(:feasible, :conflict)).to eq [false, %w[browse stub]]
    words = Object.new.extend(Vestry::Web::Sentences).say_conflict(%w[browse stub])
    expect(words).to include "above the animals and the mower and fresh wood below the stub that died cannot hold"
    @lost.refresh.update(lost_on: nil, lost_cause: nil)
    expect(spot[][:to_mm]).to be > 1200
  end

  it "is put right where its variety or its cut is wrong, and late where its season went by" do
    again
    faults = -> { plan.faults.map { |each| each.values_at(:code, :tag) } }
    expect(faults[].map(&:last).compact).to eq []
    Vestry::Records::PlanLimb.where(limb_id: limbs[2].id).update(season: 2026, after_graft_on: Date.new(2026, 8, 2))
    expect(faults[]).to include ["plan_overdue", "C"]
  end
end
