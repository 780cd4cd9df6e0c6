# frozen_string_literal: true

RSpec.describe "Planning a tree" do
  let(:here) { orchard }
  let(:standing) { tree(here) }
  let(:today) { Date.new(2026, 2, 1) }
  let!(:limbs) do
    { "A" => 20, "B" => 110, "C" => 200, "D" => 290 }.to_h do |tag, bearing|
      [tag, limb(standing, tag, bearing_deg: bearing, rise_deg: 50)]
    end
  end

  def refusal
    yield
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors
  end

  def decide(tag, **values) = Vestry::Deeds::DecideLimb.call(limbs.fetch(tag), values, by: "Orla", season: 2026)
  def tree_plan = Vestry::Records::TreePlan.new(standing.reload, today)
  def row(tag) = Vestry::Records::PlanLimb.first(plan_id: standing.reload.plan.id, limb_id: limbs.fetch(tag).id)

  it "lets a limb for later wait a season, and works it in this one when that is decided" do
    decide("A", role: "later")
    expect(row("A").season).to eq 2027
    decide("A", role: "later")
    expect(row("A").season).to eq 2027
    decide("A", role: "work")
    expect(row("A").season).to eq 2026
    decide("B", role: "later", season: 2029)
    decide("B", role: "later")
    expect(row("B").season).to eq 2029
    decide("B", role: "backup")
    expect(row("B").season).to eq 2029
    decide("C", role: "work", season: 2028)
    expect(row("C").role).to eq "later"
    decide("C", role: "work")
    expect(row("C").season).to eq 2026
  end

  it "refuses a variety that the stock refuses, and a protected one without permission" do
    peach = variety(here, "Pit", species: "peach")
    locked = variety(here, "Locked", protected: true)
    expect(refusal { decide("A", role: "work", variety: peach.id) }[:variety].first).to include("refuses")
    expect(refusal { decide("A", role: "work", variety: locked.id) }[:variety].first)
      .to include("no permission is recorded")
    locked.update(permission: "Licence 4")
    expect(decide("A", role: "work", variety: locked.id).variety_id).to eq locked.id
    expect(Vestry::Records::PlanLimb.count).to eq 1
  end

  it "puts later off to the next season, and brings it back" do
    expect(decide("A", role: "later").season).to eq 2027
    expect(decide("A", role: "work").season).to eq 2026
    moved = Vestry::Deeds::MoveLimb.call(limbs["A"], 2028, by: "Orla", first: 2026)
    expect([moved.role, moved.season]).to eq ["later", 2028]
    expect(refusal { Vestry::Deeds::MoveLimb.call(limbs["A"].reload, 2025, by: "Orla", first: 2026) })
      .to include(:season)
  end

  it "cuts a heavy limb long in winter and back on the day: two places, and the winter's is recorded" do
    kept = decide("A", role: "work", technique: "rind", cut: 700.0, practice: "single", long: true)
    expect(kept.long_cut_mm.to_f).to eq 1000.0
    expect(refusal { decide("A", role: "work", technique: "rind", cut: 700.0, practice: "single", long: true,
                            long_cut: 600.0) }).to include(:long_cut)
    done = Vestry::Deeds::HeadBack.call(row("A"), on: today, by: "Tam", today: today)
    expect([done.headed_on, done.headed_by]).to eq [today, "Tam"]
    expect(refusal { Vestry::Deeds::HeadBack.call(row("A"), on: today + 1, by: "Tam", today: today) })
      .to include(:headed_on)
    decide("B", role: "work", technique: "rind", cut: 700.0, practice: "single")
    expect(refusal { Vestry::Deeds::HeadBack.call(row("B"), on: today, by: "Tam", today: today) })
      .to include(:headed_on)
  end

  it "keeps what was grafted when the plan is changed, and frees it when the graft was lost" do
    decide("A", role: "work", technique: "rind", cut: 700.0, practice: "single")
    made = graft(limbs["A"], grafted_on: Date.new(2026, 1, 20))
    expect(refusal { decide("A", role: "lift") }[:role].first).to include("what was done stays")
    Vestry::Deeds::PaceTree.call(standing.reload, 2, by: "Orla", today: today)
    expect(row("A")).to have_attributes(role: "work", technique: "rind", season: 2026)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: today, verdict: "failed")
    limbs["A"] = Vestry::Records::Limb[limbs["A"].id]
    expect(decide("A", role: "lift").role).to eq "lift"
  end

  it "lets a side branch take over: it is worked first, the top above it comes off later" do
    limbs["A1"] = limb(standing, "A1", parent_id: limbs["A"].id, fork_mm: 900, girth_mm: 130)
    off = Vestry::Deeds::TakeOver.call(limbs["A1"], by: "Orla", first: 2026)
    expect([off, row("A1").role, row("A").role, row("A").season]).to eq [2028, "work", "lift", 2028]
    expect(row("A").cut_mm).to be > 900
    plan = tree_plan
    expect(plan.work.map(&:tag)).to include "A1"
    drawn = Vestry::Drawings::DrawnLimb.all(standing.reload, after: 2028, planning: 2026)
      .to_h { |stand| [stand.limb.tag, stand.state] }
    expect(drawn).to include("A1" => "open").or include("A1" => "work")
    expect(refusal { Vestry::Deeds::TakeOver.call(limbs["B"], by: "Orla", first: 2026) }).to include(:role)
  end

  it "begins a new version and keeps the old as it was" do
    decide("A", role: "work")
    old = standing.reload.plan
    Vestry::Deeds::NewVersion.call(standing, by: "Orla", why: "new wood")
    decide("A", role: "nurse")
    expect(old.plan_limbs_dataset.select_map(:role)).to eq ["work"]
    expect(standing.reload.plan.plan_limbs.map(&:role)).to eq ["nurse"]
    expect(standing.plans.size).to eq 2
    expect(refusal { Vestry::Deeds::NewVersion.call(tree(here, number: 90), by: "Orla") }).to include(:plan)
  end

  it "carries all that is known of a plan into its new version: why, its worth, who took a limb on, what is held" do
    kind = variety(here)
    row = decide("A", role: "work", technique: "rind", cut: 900.0, variety: kind.id, practice: "single")
    site = Vestry::Records::Site.create(orchard_id: here.id, tree_id: standing.id, tag: "S1", at_mm: 700,
                                        bearing_deg: 90)
    plan = standing.reload.plan
    plan.update(reasons: Sequel.pg_jsonb(Vestry::Records::Plan::REASONS.keys.first(1)), old_worth: 0.4, new_worth: 0.9,
                cap: 0.3, purpose: "cider")
    row.update(hand: "Tam", undone_on: World::TODAY, undone_why: "rain")
    Vestry::Records::PlanSite.create(orchard_id: here.id, plan_id: plan.id, site_id: site.id, role: "work",
                                     season: 2026, technique: "approach", variety_id: kind.id, sticks: 1,
                                     donor: "the seedling")
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, source: "row S",
                                            cut_on: Date.new(2026, 1, 20))
    Vestry::Records::Stick.add(bundle, [9.0])
    Vestry::Deeds::KeepBundle.lock(row, bundle.sticks.first, by: "Orla")
    Vestry::Deeds::SettleCrew.fix(row, World::TODAY + 2, by: "Orla", today: World::TODAY)
    told = lambda do |each|
      each.values.except(:id, :plan_id, :version, :created_at, :superseded_at)
    end
    before = [plan, *plan.plan_limbs, *plan.plan_sites].map { |each| told[each.refresh] }
    Vestry::Deeds::NewVersion.call(standing, by: "Orla")
    anew = standing.reload.plan
    expect([anew, *anew.plan_limbs, *anew.plan_sites].map { |each| told[each] }).to eq before
    expect(Vestry::Records::StickLocks.of(here)).to eq(bundle.sticks.first.id => anew.plan_limbs.first.id)
    expect(Vestry::DB[:crew_fixed].select_map(:plan_limb_id)).to eq [anew.plan_limbs.first.id]
  end

  it "plans by an earlier version again, but for what was grafted since and what has come off" do
    decide("A", role: "work", technique: "rind", cut: 700.0, practice: "single")
    decide("B", role: "nurse")
    decide("C", role: "work", technique: "rind", cut: 700.0, practice: "single")
    first = standing.reload.plan
    Vestry::Deeds::NewVersion.call(standing, by: "Orla")
    decide("A", role: "work", technique: "cleft", cut: 900.0, practice: "single", against_reason: "trial")
    decide("B", role: "lift")
    graft(limbs["A"], cut_mm: 900, technique: "cleft")
    expect(refusal { Vestry::Deeds::NewVersion.again(standing, standing.reload.plan, by: "Orla") }).to include(:plan)
    plan = Vestry::Deeds::NewVersion.again(standing, first, by: "Orla")
    expect(standing.reload.plan.id).to eq plan.id
    told = plan.plan_limbs.to_h { |row| [row.limb.tag, [row.role, row.technique]] }
    expect(told).to include("A" => ["work", "cleft"], "B" => ["nurse", nil])
    expect(standing.plans.size).to eq 3
  end

  it "plans a bare stretch, within what a side method works, and lets it go again" do
    site = Vestry::Records::Site.create(orchard_id: here.id, tree_id: standing.id, tag: "S1", at_mm: 700,
                                        bearing_deg: 90, diameter_mm: 120)
    kind = variety(here)
    kept = Vestry::Deeds::DecideSite.call(site, { role: "work", variety: kind.id }, by: "Orla", season: 2026)
    expect([kept.technique, kept.season, kept.variety_id]).to eq ["side-bark", 2026, kind.id]
    expect(refusal { Vestry::Deeds::DecideSite.call(site, { role: "work", technique: "tongued-side" }, by: "Orla",
           season: 2026) }[:technique].first).to include("120 mm thick")
    Vestry::Deeds::DecideSite.call(site, { role: "none" }, by: "Orla", season: 2026)
    expect(standing.reload.plan.plan_sites).to eq []
    expect(Vestry::Deeds::DecideSite.call(site, { role: "later", season: 2027 }, by: "Orla", season: 2026).hidden?)
      .to be false
  end

  it "reads shares, what a season takes and what is left, nothing counted twice" do
    limb(standing, "A1", parent_id: limbs["A"].id, fork_mm: 1500, girth_mm: 120)
    plan = tree_plan
    expect(plan.removed(plan.limbs)).to be_within(1e-9).of(1.0)
    one = plan.kept(2026, made: {}, off: [])
    expect(one).to be_within(1e-9).of(1.0)
    plan.projected("p")[:work].sum { |each| each[:share] }.then { |sum| expect(sum).to be <= 1 + 1e-9 }
    Vestry::Deeds::PaceTree.call(standing, 2, by: "Orla", today: today)
    expect(tree_plan.removed_by_season.values.sum).to be_within(1e-6)
      .of(tree_plan.removed(tree_plan.work + tree_plan.lifted))
    expect(tree_plan.kept(2027)).to be < tree_plan.kept(2026)
  end

  it "says what is wrong when the tree has changed since, or a season takes too much" do
    decide("A", role: "work", technique: "rind", cut: 700.0, practice: "single")
    decide("B", role: "nurse")
    limbs["A"].update(girth_mm: 300)
    standing.reload.plan.update(cap: 0.1)
    expect(tree_plan.faults.map { |each| each[:code] }).to include("plan_measured_anew", "plan_over_cap")
    limbs["A"].update(gone_on: today)
    expect(tree_plan.faults.map { |each| each[:code] }).to include("plan_limb_gone")
  end

  it "compares wood wanted with wood promised, and says what to drop first" do
    kind = variety(here)
    decide("A", role: "work", technique: "rind", cut: 700.0, practice: "pair", variety: kind.id)
    decide("B", role: "backup", technique: "rind", cut: 900.0, practice: "pair", variety: kind.id)
    supply = -> { Vestry::Records::WoodSupply.new(here, 2026, today).lines.first }
    expect(supply.call.shortage).to include(wanted: 4, short: 4)
    Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: kind.id, season: 2026, sticks: 2)
    expect(supply.call.to_drop.map { |each| each.limb.tag }).to eq ["B"]
    Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: kind.id, season: 2026, sticks: 2)
    expect(supply.call).not_to be_short
  end
end
