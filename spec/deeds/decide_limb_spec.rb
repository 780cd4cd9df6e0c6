# frozen_string_literal: true

RSpec.describe Vestry::Deeds::DecideLimb do
  let(:fork) { limb(tree(orchard), "A") }

  def season_of(values, now: 2026)
    described_class.call(fork, values, by: "Orla", season: now)
    Vestry::Records::PlanLimb.where(limb_id: fork.id).get(:season)
  end

  it "puts a limb for later into the next season, or the one that is said" do
    expect(season_of({ role: "later" })).to eq 2027
    expect(season_of({ role: "later" }, now: 2029)).to eq 2030
    expect(season_of({ role: "later", season: 2033 })).to eq 2033
    expect(season_of({ role: "later" }, now: 2029)).to eq 2033
  end

  it "brings a limb from later into this season when it is to be worked, unless another is said" do
    season_of({ role: "later", season: 2031 })
    expect(season_of({ role: "work" }, now: 2028)).to eq 2028
    expect(season_of({ role: "work" }, now: 2029)).to eq 2028
    season_of({ role: "later", season: 2031 })
    expect(season_of({ role: "work", season: 2030 }, now: 2028)).to eq 2030
  end

  it "leaves a limb that was later in its season under any other role" do
    season_of({ role: "later", season: 2031 })
    expect(season_of({ role: "nurse" }, now: 2028)).to eq 2031
  end

  it "takes off, and heads back, no limb at the place where it was to be grafted" do
    kind = variety(fork.orchard)
    cut = lambda do |role|
      described_class.call(fork, { role: role }, by: "Orla", season: 2026)
      fork.reload.planned.cut_mm&.to_f
    end
    work = -> { described_class.call(fork, { role: "work", technique: "rind", cut: 900.0, variety: kind.id },
                                     by: "Orla", season: 2026) }
    work.call
    expect([cut["nurse"], cut["work"], cut["nurse"], cut["lift"]]).to eq [900.0, 900.0, 900.0, nil]
    work.call
    expect(cut["renew"]).to be_nil
    # What takes over says where the top above it comes off.
    branch = limb(fork.tree, "A1", parent_id: fork.id, fork_mm: 500, bearing_deg: 90, girth_mm: 100)
    Vestry::Deeds::TakeOver.call(branch, by: "Orla", first: 2026)
    expect(cut["lift"]).to be > 500
  end

  it "leaves what somebody else grafted since the limb was read, and writes of a look no more than it was told" do
    fork.grafts
    graft(Vestry::Records::Limb[fork.id])
    expect { season_of({ role: "nurse" }) }.to raise_error(Vestry::Deeds::Refused, /was grafted on 21 April 2026/)
    seen = Vestry::Deeds::SeeStage.call(fork.tree, stage: "green", slipping: nil, on: World::TODAY,
                                                   today: World::TODAY, by: "Orla")
    expect(seen.values.slice(:closed, :bleeds, :slipping)).to eq(closed: false, bleeds: false, slipping: nil)
  end

  it "refuses a method without a place, and a place without a method, where the other is not decided" do
    halves = { cut: [{ technique: "rind" }, { practice: "pair" }, { long: true }], technique: [{ cut: 700.0 }] }
    halves.each do |missing, said|
      said.each do |half|
        expect { season_of({ role: "work", season: 2026, **half }) }
          .to raise_error(Vestry::Deeds::Refused) { |e| expect(e.errors.keys).to eq [missing] }
      end
    end
    expect(fork.reload.planned).to be_nil
  end

  it "changes the method at the place that is decided, or the place of the method, and leaves the rest" do
    decided = lambda do |**said|
      described_class.call(fork.reload, { role: "work", **said }, by: "Orla", season: 2026)
      fork.reload.planned.then { |row| [row.technique, row.cut_mm.to_f, row.long_cut_mm&.to_f, row.sticks] }
    end
    expect(decided[technique: "rind", cut: 900.0, practice: "single", long: true, long_cut: 1200.0])
      .to eq ["rind", 900.0, 1200.0, 1]
    expect(decided[technique: "bark", practice: "pair"]).to eq ["bark", 900.0, 1200.0, 2]
    expect(decided[season: 2026]).to eq ["bark", 900.0, 1200.0, 2]
    expect(decided[cut: 950.0]).to eq ["bark", 950.0, 1200.0, 2]
    expect(decided[long: false, practice: "single"]).to eq ["bark", 950.0, nil, 1]
  end

  it "keeps why a place is against the rulebook with that place, and asks again of another" do
    decide = ->(**said) { described_class.call(fork.reload, { role: "work", **said }, by: "Orla", season: 2026) }
    decide[technique: "rind", cut: 60.0, practice: "single", against_reason: "the bark is sound there"]
    decide[practice: "pair"]
    expect(fork.reload.planned.values.slice(:against_reason, :sticks))
      .to eq(against_reason: "the bark is sound there", sticks: 2)
    expect { decide[cut: 50.0] }.to raise_error(Vestry::Deeds::Refused, /too near the fork/)
  end
end
