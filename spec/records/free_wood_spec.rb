# frozen_string_literal: true

# What of a variety's wood is free for a stub that was lost: not what stubs that wait are to have.
RSpec.describe Vestry::Records::WoodSupply, "and a stub that was lost" do
  let(:here) { orchard }
  let(:kind) { variety(here) }
  let(:standing) { tree(here) }
  let(:lost) { graft(limb(standing, "Q"), grafted_on: Date.new(2026, 4, 20)) }

  def bundle(count, **more)
    Vestry::Deeds::MakeBundle.call(here, { variety: kind.id, source: "a neighbour", cut_on: Date.new(2026, 1, 20),
                                           count: count, length_mm: 180.0, ends: "sealed",
                                           checked: Vestry::Deeds::MakeBundle::CHECKS.keys.map(&:to_s), **more },
                                   by: "Orla", today: Date.new(2026, 1, 20))
  end

  def waits(tag, practice)
    Vestry::Deeds::DecideLimb.call(limb(standing, tag), { role: "work", technique: "rind", cut: 700.0,
                                                          practice: practice, variety: kind.id },
                                   by: "Orla", season: 2026)
  end

  def dead(on) = Vestry::Deeds::RecordLoss.call(lost, on: on, cause: "failed", by: "Orla", today: on)

  def said(on)
    here = Vestry::Records::Orchard[self.here.id]
    told = Vestry::Records::GraftReport.new(here.graft!(lost.id), on).answer.first
    [told, Vestry::Web::Headline.new(here, on).limb(here.limb!(lost.limb_id))]
  end

  it "is what lies in store beyond what they want" do
    kind
    dead(on = Date.new(2026, 5, 10))
    expect(said(on)).to match [include(code: "answer_regraft_no_wood", sticks: 0), include("no stick of it is left")]
    bundle(3)
    expect(said(on)).to match [include(code: "answer_regraft_now", sticks: 3), include("there are 3 sticks of it left")]
    waits("A", "pair")
    expect(said(on)).to match [include(code: "answer_regraft_now", sticks: 1), include("there is one stick of it left")]
    waits("B", "pair")
    expect(said(on)).to match [include(code: "answer_regraft_no_wood", sticks: 0, wanted: true),
                               include("all its sticks are wanted by stubs that wait")]
  end

  it "is told to each of two that were lost as what the other wants too, until one is decided" do
    bundle(2)
    on = Date.new(2026, 5, 10)
    stubs = %w[Q R].map { |tag| limb(standing, tag) }
    made = stubs.map do |each|
      Vestry::Deeds::DecideLimb.call(each, { role: "work", variety: kind.id }, by: "Orla", season: 2026)
      graft(each, variety_id: kind.id, grafted_on: Date.new(2026, 4, 20))
    end
    told = lambda do |graft|
      here = Vestry::Records::Orchard[self.here.id]
      answer = Vestry::Records::GraftReport.new(here.graft!(graft.id), on).answer.first
      Vestry::Web::Headline.new(here, on).say(answer)
    end
    lose = ->(each) { Vestry::Deeds::RecordLoss.call(each, on: on, cause: "browsed", by: "Orla", today: on) }
    lose[made.first]
    expect(told[made.first]).to start_with "Browsed off. Bark slips until"
    expect(told[made.first]).to include "there are 2 sticks of it left: regraft now"
    lose[made.last]
    expect(made.map { |each| told[each][/left, which .* too/] })
      .to eq ["left, which #{stubs[1].label} wants too", "left, which #{stubs[0].label} wants too"]
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[stubs.last.id], { role: "nurse" }, by: "Orla", season: 2026)
    expect(told[made.first]).to include "there are 2 sticks of it left: regraft now"
  end

  it "is told of with the day from which bark slips, once none can be cut any more" do
    kind
    dead(Date.new(2026, 6, 30))
    bundle(2, cut_on: Date.new(2026, 1, 20))
    winter, spring = Date.new(2027, 1, 15), Date.new(2027, 4, 2)
    expect(said(winter)).to match [{ code: "answer_this_spring", leafy: false },
                                   include("with wood that is cut while it sleeps")]
    told, line = said(spring)
    expect(told).to include(code: "answer_regraft_soon", sticks: 0, opens: be_between(spring, Date.new(2027, 5, 5)))
    expect(line).to include("it can be grafted again, a little lower: no stick of it is left, take another variety's")
  end
end
