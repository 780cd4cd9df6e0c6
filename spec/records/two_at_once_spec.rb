# frozen_string_literal: true

# Two people, two processes: each line with two connections that truly wait for each other.
RSpec.describe "Two at once" do
  let!(:here) { orchard }
  let!(:made) { graft(limb(tree(here))) }
  let(:today) { World::TODAY }

  def kept = Vestry::DB[:care_tasks].where(graft_id: made.id).select_order_map(:key)

  # Holds the first reckoning after its facts were read, does something, and lets it go on.
  def held
    read, go = Queue.new, Queue.new
    allow(Vestry::Records::CareSchedule).to receive(:keep).and_wrap_original do |keep, *args|
      unless @held
        @held = true
        read << true
        go.pop
      end
      keep.call(*args)
    end
    first = Thread.new { Vestry::Records::CareSchedule.refresh(Vestry::Records::Orchard[here.id], today) }
    read.pop
    yield
    go << true
    first.join
  end

  it "keeps each task of a graft once, whoever opens its page meanwhile" do
    second = nil
    held do
      second = Thread.new { Vestry::Records::CareSchedule.refresh(Vestry::Records::Orchard[here.id], today) }
      until_waiting
    end
    second.join
    expect(kept).to eq kept.uniq
    expect(kept).to include "first-look"
    expect { Vestry::DB[:care_tasks].insert(Vestry::DB[:care_tasks].first) }
      .to raise_error(Sequel::UniqueConstraintViolation)
  end

  it "reckons aftercare anew where bark was seen to lift no longer while it was reckoned, on any tree of its kind" do
    other = tree(here, number: 40)
    told = nil
    held do
      told = Thread.new do
        Vestry::Records::PhenologySeen.create(orchard_id: here.id, tree_id: other.id, seen_on: today, seen_by: "Tam",
                                              closed: true)
      end
      until_waiting
    end
    told.join
    Vestry::Records::CareSchedule.refresh(Vestry::Records::Orchard[here.id], today)
    expect(Vestry::Records::CareSchedule).to have_received(:keep).with([made.id], any_args).twice
  end

  it "records what was seen while aftercare is reckoned, where both have to work out the spring first" do
    reckoned = nil
    Vestry::DB.transaction do
      Vestry::Records::CoreInputs.care(Vestry::Records::Graft[made.id].locked, today)
      reckoned = Thread.new { Vestry::Records::CareSchedule.refresh(Vestry::Records::Orchard[here.id], today) }
      reckoned.join(2)
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: today, buds: "dead",
                                    callus: "none", verdict: "failed")
    end
    reckoned.join
    expect(kept).to include "first-look"
  end

  it "keeps no stick and no day for a plan that is begun anew meanwhile" do
    kind = made.variety
    branch = limb(made.limb.tree, "B", bearing_deg: 200)
    row = Vestry::Deeds::DecideLimb.call(branch, { role: "work", technique: "rind", cut: 700.0, variety: kind.id,
                                                   practice: "single" }, by: "Orla", season: 2026)
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, source: "row S",
                                            cut_on: Date.new(2026, 1, 20))
    Vestry::Records::Stick.add(bundle, [9.0])
    tries = [-> { Vestry::Deeds::KeepBundle.lock(row, bundle.sticks.first, by: "Tam") },
             -> { Vestry::Deeds::SettleCrew.fix(row, today + 1, by: "Tam", today: today) }]
    waiting = nil
    Vestry::DB.transaction do
      Vestry::Deeds::NewVersion.call(branch.tree, by: "Orla")
      waiting = tries.map do |try|
        Thread.new { try.call }.tap { |thread| thread.report_on_exception = false }
      end
      until_waiting
    end
    expect(waiting.map { |thread| thread.value rescue $!.class }).to eq [Vestry::Records::Missing] * 2
    expect([Vestry::DB[:stick_locks].count, Vestry::DB[:crew_fixed].count]).to eq [0, 0]
  end

  it "cuts a stem once, and sets up one stump, whoever else logs it meanwhile" do
    stem = tree(here, number: 7, trunk_girth_mm: 90)
    top = limb(stem, "A", fork_mm: 600)
    wound = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: stem.id, girth_mm: 90, cause: "teeth",
                                          found_on: today - 30)
    log = lambda do
      Vestry::Deeds::LogRepair.call(Vestry::Records::Wound[wound.id],
                                    { repaired_on: today - 10, course: "stump-graft", left_mm: 150.0 },
                                    by: "Orla", today: today)
    end
    second_of_two(log)
    standing = Vestry::Records::Limb.standing(stem.id)
    expect([standing.map(&:tag), Vestry::Records::LimbEvent.where(limb_id: top.id).count]).to eq [["S"], 1]
  end

  def bridged
    Vestry::Records::Wound.create(orchard_id: here.id, tree_id: made.limb.tree_id, girth_mm: 600, cause: "teeth",
                                  found_on: today - 30)
      .tap { |wound| Vestry::Deeds::MeasureWound.call(wound, {}, margins(100), by: "Orla") }
  end

  def margins(low)
    [0, 90, 180, 270].map { |at| { bearing_deg: at.to_f, low_mm: low.to_f, high_mm: low + 120.0 } }
  end

  it "places the scions of a bridge as the last of two did, and refuses margins of what is bridged meanwhile" do
    wound = bridged
    place = ->(*bearings) { ->(row) { Vestry::Deeds::PlaceScions.call(row, bearings, by: "Orla") } }
    on = ->(deed) { -> { deed.call(Vestry::Records::Wound[wound.id]) } }
    second_of_two(on[place[10.0, 100.0]], on[place[20.0, 110.0, 200.0]])
    expect(wound.reload.planned.map { |row| row.bearing_deg.to_i }).to eq [20, 110, 200]
    set = lambda do |row|
      Vestry::Deeds::LogRepair.call(row, { repaired_on: today, course: "bridge", scions: [{ bearing_deg: 20.0 }] },
                                    by: "Orla", today: today)
    end
    again = ->(row) { Vestry::Deeds::MeasureWound.call(row, {}, margins(90), by: "Tam") }
    expect(second_of_two(on[set], on[again])).to match(margins: [/were bridged/])
    expect(second_of_two(on[set], on[place[20.0]])).to match(bearings: [/set there already/])
  end

  it "gives no shoot to two bridges that were to be cut from the same" do
    wounds = [made.limb.tree, tree(here, number: 8)].map do |stem|
      Vestry::Records::Wound.create(orchard_id: here.id, tree_id: stem.id, girth_mm: 600, cause: "teeth",
                                    found_on: today - 30)
        .tap { |wound| Vestry::Deeds::MeasureWound.call(wound, {}, margins(100), by: "Orla") }
    end
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: made.variety_id, source: "its own top",
                                            cut_on: today - 90, length_mm: 900, whole_shoots: true)
    Vestry::Records::Stick.add(bundle, [9.0, 9.5])
    named = wounds.map do |wound|
      Vestry::Records::WoundReport.new(Vestry::Records::Wound[wound.id], today).then do |report|
        [at = report.places.first[:bearing_deg].to_f, report.shoots_at([at]).map { |stick, _| stick.id }]
      end
    end
    expect(named.map(&:last).uniq.size).to eq 1
    log = wounds.zip(named).map do |wound, (at, _)|
      lambda do
        Vestry::Deeds::LogRepair.call(Vestry::Records::Wound[wound.id],
                                      { repaired_on: today, course: "bridge", scions: [{ bearing_deg: at }],
                                        bundle: bundle.id, shoots: 1 }, by: "Orla", today: today)
      end
    end
    second_of_two(*log)
    expect(Vestry::Records::Stick.where(bundle_id: bundle.id).select_order_map(:wound_id)).to eq wounds.map(&:id).sort
  end

  describe "on a limb with a bare stretch" do
    let(:stem) { limb(made.limb.tree, "H", length_mm: 2000) }
    let!(:site) do
      Vestry::Deeds::MarkSite.call(stem.tree, { tag: "N", limb_id: stem.id, at_mm: 900.0, bearing_deg: 90.0 },
                                   by: "Orla")
    end

    def set(**facts)
      { grafted_on: today - 20, variety_id: made.variety_id, grafter: "Orla", stub_mm: 60.0, wrap: "stretch-tape",
        seal: "wax", cover: "wax-only" }.merge(facts)
    end

    def cut
      Vestry::Deeds::LogGraft.call(Vestry::Records::Limb[stem.id], set(technique: "rind", cut_mm: 700, sticks: 2),
                                   by: "Orla", today: today)
    end

    def fill
      Vestry::Deeds::FillSite.call(Vestry::Records::Site[site.id], set(technique: "side-bark", sticks: 1), by: "Tam",
                                                                                                          today: today)
    end

    it "fills none on wood that is cut off for a graft meanwhile, and leaves no limb standing there" do
      expect(second_of_two(method(:cut), method(:fill))).to be_a Vestry::Records::Missing
      expect(Vestry::Records::Limb.where(tag: "N").count).to eq 0
    end

    it "takes off with its top what was set into it meanwhile" do
      second_of_two(method(:fill), method(:cut))
      expect(Vestry::Records::Limb.where(tag: "N").get(:gone_on)).to eq today - 20
    end
  end

  it "sets another method at the place that is decided meanwhile, and moves the place of the method that is" do
    stem = limb(made.limb.tree, "M", girth_mm: 220)
    decide = lambda do |**said|
      lambda do
        Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[stem.id], { role: "work", **said }, by: "Orla",
                                                                                                 season: 2026)
      end
    end
    decide[technique: "rind", cut: 900.0, practice: "single"].call
    second_of_two(decide[cut: 800.0], decide[technique: "bark"])
    told = -> { Vestry::Records::Limb[stem.id].planned.then { |row| [row.technique, row.cut_mm.to_f, row.sticks] } }
    expect(told.call).to eq ["bark", 800.0, 1]
    second_of_two(decide[technique: "rind"], decide[cut: 700.0])
    expect(told.call).to eq ["rind", 700.0, 1]
  end

  it "has a bare stretch bare again once, whoever else plans it again" do
    site = Vestry::Deeds::MarkSite.call(made.limb.tree, { tag: "N", at_mm: 700.0, bearing_deg: 90.0 }, by: "Orla")
    graft = Vestry::Deeds::FillSite.call(site, { grafted_on: today - 20, technique: "side-bark", stub_mm: 150.0,
                                                 variety_id: made.variety_id, sticks: 1, grafter: "Orla" },
                                         by: "Orla", today: today)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: graft.id, seen_on: today, verdict: "failed",
                                  seen_by: "Orla")
    again = -> { Vestry::Deeds::Regraft.call(Vestry::Records::Graft[graft.id], by: "Orla", today: today) }
    second_of_two(again)
    expect([Vestry::Records::Site.in_sight.count, Vestry::Records::PlanSite.in_sight.count]).to eq [1, 1]
  end

  it "takes a head off once when its task is done, and puts it back once, whoever else presses" do
    stem = limb(made.limb.tree, "H", girth_mm: 230, length_mm: 2000)
    side = graft(stem, technique: "side-bark", sticks: 1, cut_mm: 500, grafted_on: Date.new(2026, 4, 25))
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: side.id, seen_on: Date.new(2026, 7, 1),
                                  verdict: "took", seen_by: "Orla")
    winter, row = Date.new(2027, 1, 20), -> { Vestry::Records::Graft[side.id] }
    second_of_two(-> { Vestry::Deeds::SettleTask.call(row.call, "side-off", "done", by: "Orla", today: winter) })
    events = Vestry::Records::LimbEvent.in_sight
    expect([events.count, stem.reload.length_mm, Vestry::Records::TaskDone.in_sight.count]).to eq [1, 520, 1]
    second_of_two(-> { Vestry::Deeds::SettleTask.undo(row.call, "side-off", by: "Orla") })
    expect([events.count, stem.reload.length_mm, Vestry::Records::TaskDone.in_sight.count]).to eq [0, 2000, 0]
  end

  it "shortens a nurse limb once a season, whoever else presses" do
    nurse = limb(made.limb.tree, "N", length_mm: 1800)
    shorten = lambda do |on|
      -> { Vestry::Deeds::ShortenNurse.call(Vestry::Records::Limb[nurse.id], on: on, today: on, by: "Orla") }
    end
    second_of_two(shorten[today])
    shorten[today + 30].call
    expect([nurse.reload.length_mm, Vestry::Records::LimbEvent.count]).to eq [1206, 1]
    shorten[today + 365].call
    expect(Vestry::Records::LimbEvent.count).to eq 2
  end

  it "spreads a tree over seasons as somebody decides it meanwhile" do
    standing = tree(here, number: 9)
    limbs = { "A" => 0, "B" => 90, "C" => 180, "D" => 270 }
      .map { |tag, bearing| limb(standing, tag, bearing_deg: bearing, rise_deg: 50) }
    decide = lambda do
      Vestry::Deeds::DecideLimb.call(limbs.first, { role: "work", technique: "rind", cut: 700.0,
                                                    variety: made.variety_id }, by: "Orla", season: 2026)
    end
    pace = -> { Vestry::Deeds::PaceTree.call(Vestry::Records::Tree[standing.id], 2, by: "Tam", today: today) }
    second_of_two(decide, pace)
    expect(Vestry::Records::PlanLimb.first(limb_id: limbs.first.id).cut_mm).to eq 700
    expect(Vestry::Records::PlanLimb.in_sight.count).to eq 4
  end

  it "refuses bark that leaves no wood in a limb that somebody measures thinner meanwhile" do
    measured = limb(made.limb.tree, "T", girth_mm: 300)
    measure = lambda do |facts|
      -> { Vestry::Deeds::MeasureLimb.call(Vestry::Records::Limb[measured.id], facts, by: "Orla") }
    end
    told = second_of_two(measure[{ girth_mm: 60.0 }], measure[{ bark_mm: 20.0 }])
    expect(told).to match(bark_thickness: [/leaves no wood/])
  end

  it "fills a bare stretch once, whoever else sets a graft into it meanwhile" do
    site = Vestry::Deeds::MarkSite.call(made.limb.tree, { tag: "N", at_mm: 700.0, bearing_deg: 90.0 }, by: "Orla")
    fill = lambda do
      Vestry::Deeds::FillSite.call(Vestry::Records::Site[site.id],
                                   { grafted_on: today, technique: "side-bark", variety_id: made.variety_id,
                                     stub_mm: 150.0, sticks: 1, grafter: "Orla", wrap: "stretch-tape", seal: "wax",
                                     cover: "tape-only", client_key: SecureRandom.uuid },
                                   by: "Orla", today: today)
    end
    expect(second_of_two(fill)).to be_a Vestry::Records::Missing
    expect(Vestry::Records::Limb.where(tree_id: site.tree_id, tag: "N").count).to eq 1
  end

  it "takes a graft away once, and brings it back once, whoever else presses meanwhile" do
    hides = -> { Vestry::DB[:history].where(table_name: "grafts", row_id: made.id).order(:id).select_map(:action) }
    %i[call undo].each do |deed|
      second = nil
      Vestry::DB.transaction do
        Vestry::Deeds::Hide.public_send(deed, made, by: "Orla")
        other = Vestry::Records::Graft[made.id]
        second = Thread.new { Vestry::Deeds::Hide.public_send(deed, other, by: "Tam") }
        until_waiting
      end
      second.join
    end
    expect(hides.call).to eq %w[hide restore]
  end

  it "settles several tasks while someone holds one of their grafts and then another, whatever their order" do
    second = graft(limb(made.limb.tree, "Z"))
    settled = nil
    Vestry::DB.transaction do
      made.locked
      settled = Thread.new do
        Vestry::Deeds::SettleTask.all([[second, "first-look"], [made, "first-look"]], "waived", by: "Gus", today: today,
                                                                                               why: "seen by another")
      end
      until_waiting
      second.locked
    end
    settled.value
    expect(Vestry::Records::TaskDone.order(:graft_id).select_map(:graft_id)).to eq [made.id, second.id]
  end

  it "reckons aftercare beside someone who changes one graft after the other, and waits for nobody" do
    second = graft(limb(made.limb.tree, "Z"))
    visit = lambda do |on|
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: on.id, seen_on: today, buds: "dead", callus: "none",
                                    verdict: "failed")
    end
    refresh = -> { Vestry::Records::CareSchedule.refresh(Vestry::Records::Orchard[here.id], today) }
    refresh.call
    Vestry::DB[:care_states].update(valid_until: Date.new(2026, 1, 1))
    Vestry::DB.transaction do
      visit[second]
      Thread.new(&refresh).join
      expect(kept).to include "first-look"
      visit[made]
    end
    refresh.call
    expect(Vestry::DB[:care_states].where(graft_id: second.id).get(:state)).to eq "failed"
  end

  it "begins aftercare anew once, when two processes of another release start" do
    schedule = Vestry::Records::CareSchedule
    schedule.refresh(Vestry::Records::Orchard[here.id], today)
    Vestry::DB[:care_mark].update(release: "an older one")
    second = nil
    Vestry::DB.transaction do
      schedule.begin_again
      second = Thread.new { schedule.begin_again }
      # What a transaction sees of others stands still.
      Thread.new { until_waiting }.join
      Vestry::DB[:care_states].update(valid_until: Date.new(2030, 1, 1))
    end
    second.join
    expect(Vestry::DB[:care_states].select_map(:valid_until).uniq).to eq [Date.new(2030, 1, 1)]
    expect(Vestry::DB[:care_mark].select_map(:release)).to eq [Vestry::RELEASE]
  end

  it "does not lose a visit that comes between reading the facts and keeping what was reckoned" do
    visit = nil
    held do
      visit = Thread.new do
        Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: today, buds: "dead",
                                            callus: "none", verdict: "failed")
      end
      until_waiting
    end
    visit.join
    Vestry::Records::CareSchedule.refresh(Vestry::Records::Orchard[here.id], today)
    expect(Vestry::DB[:care_states].where(graft_id: made.id).get(:state)).to eq Vestry::Records::CareSchedule
      .care(made, today)[:state]
    expect(kept).not_to include "first-look"
  end

  it "numbers two bundles made at once apart, orchard by orchard" do
    other = orchard
    kinds = [here, other].to_h { |each| [each.id, each.varieties_dataset.first || variety(each)] }
    add = ->(where) { Vestry::Records::Bundle.create(orchard_id: where.id, variety_id: kinds[where.id].id,
                                                     cut_on: today) }
    threads = [here, other, here, other].map { |where| Thread.new { add.call(where) } }
    codes = threads.map { |thread| thread.value.refresh.then { |bundle| [bundle.orchard_id, bundle.code] } }
    expect(codes.sort).to eq [[here.id, "Wood 1"], [here.id, "Wood 2"], [other.id, "Wood 1"], [other.id, "Wood 2"]].sort
  end

  it "dates a bundle by what was seen of it meanwhile" do
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: made.variety_id, source: "row S",
                                            cut_on: today - 60)
    date = lambda do
      Vestry::Deeds::KeepBundle.date(Vestry::Records::Bundle[bundle.id], today - 5, by: "Tam", today: today)
    rescue Vestry::Deeds::Refused => e
      e.errors
    end
    late = nil
    Vestry::DB.transaction do
      Vestry::Deeds::KeepBundle.check(bundle, "sound", on: today - 20, note: nil, by: "Orla")
      late = Thread.new(&date)
      until_waiting
    end
    expect(late.value).to match(cut_on: [/is after it was looked at/])
    expect(bundle.refresh.cut_on).to eq today - 60
  end

  it "takes an earlier version of a plan up again once, whoever else begins one meanwhile" do
    standing = made.limb.tree
    Vestry::Deeds::DecideLimb.call(limb(standing, "B", bearing_deg: 200), { role: "nurse" }, by: "Orla", season: 2026)
    first = standing.reload.plan
    Vestry::Deeds::NewVersion.call(standing, by: "Orla")
    second = nil
    Vestry::DB.transaction do
      Vestry::Deeds::NewVersion.again(standing, first, by: "Orla")
      second = Thread.new { Vestry::Deeds::NewVersion.call(Vestry::Records::Tree[standing.id], by: "Tam") }
      until_waiting
    end
    expect(second.value.id).to eq standing.reload.plan.id
    expect(standing.plans.count { |plan| plan.superseded_at.nil? }).to eq 1
    expect(standing.plan.plan_limbs.map(&:role)).to eq %w[nurse]
  end

  it "plans a lost stub again once, a little lower and not twice, and not where another graft was set meanwhile" do
    made.update(cut_mm: 900, lost_on: today, lost_cause: "failed")
    again = -> { Vestry::Deeds::Regraft.call(Vestry::Records::Graft[made.id], by: "Orla", today: today).cut_mm.to_f }
    fresh = 900 - here.rulebook.value("reckoning.regraft.lower")
    expect(Array.new(2) { Thread.new(&again) }.map(&:value)).to eq [fresh, fresh]
    expect(Vestry::Records::PlanLimb.where(limb_id: made.limb_id).count).to eq 1
    late = nil
    Vestry::DB.transaction do
      Vestry::Records::TreeQueries.hold([made.limb.tree_id])
      late = Thread.new do
        again.call
      rescue Vestry::Deeds::Refused => e
        e.errors
      end
      until_waiting
      graft(Vestry::Records::Limb[made.limb_id], grafted_on: today, cut_mm: fresh)
    end
    expect(late.value).to match(graft: [/is not to be made again: .+ stands in its place/])
  end

  it "does not plan a dead stub again whose neighbour is found alive at the same moment" do
    beside = graft(made.limb, grafted_on: made.grafted_on, cut_mm: made.cut_mm)
    [made, beside].each { |each| each.update(lost_on: today - 1, lost_cause: "failed") }
    here_again = -> { Vestry::Deeds::RecordLoss.undo(Vestry::Records::Graft[beside.id], by: "Orla") }
    again = -> { Vestry::Deeds::Regraft.call(Vestry::Records::Graft[made.id], by: "Orla", today: today) }
    expect(second_of_two(here_again, again)).to match(graft: [/is not to be made again/])
    expect(Vestry::Records::PlanLimb.where(limb_id: made.limb_id).count).to eq 0
  end

  it "puts an allotted limb back only where nobody moved it meanwhile, and accepts each move once" do
    stub = limb(made.limb.tree, "B", girth_mm: 160, bearing_deg: 90)
    Vestry::Deeds::DecideLimb.call(stub, { role: "work", technique: "rind", cut: 600.0, practice: "single",
                                           variety: made.variety_id, season: 2026 }, by: "Orla", season: 2026)
    run = Vestry::Records::AllotmentRun.asked(here, { "seasons" => 2, "more" => {} }, by: "Orla", client_key: nil)
    run.update(state: "running")
    run.answered({ "first" => 2026, "chosen" => [{ "limb" => stub.id, "season" => 1 }] })
    accept = -> { Vestry::Deeds::AllotOrchard.accept(Vestry::Records::AllotmentRun[run.id], by: "Orla") }
    expect(Array.new(2) { Thread.new(&accept) }.map(&:value)).to match_array [0, 1]
    back = nil
    Vestry::DB.transaction do
      Vestry::Records::TreeQueries.hold([stub.tree_id])
      back = Thread.new do
        Vestry::Deeds::AllotOrchard.take_back(Vestry::Records::AllotmentRun[run.id], by: "Orla")
      end
      until_waiting
      Vestry::Deeds::MoveLimb.call(Vestry::Records::Limb[stub.id], 2030, by: "Tam", first: 2026)
    end
    expect(back.value).to eq [stub.label]
    expect(Vestry::Records::Limb[stub.id].planned.season).to eq 2030
  end

  # What a card names is read before the bundle is held: meanwhile it is kept for another stub, or on another graft.
  it "takes for a graft no stick that was kept for another stub, or used, after its card was read" do
    kind = variety(here, "Two at once")
    bundle = Vestry::Deeds::MakeBundle.call(
      here, { variety: kind.id, source: "row S", cut_on: Date.new(2026, 1, 16), diameters: [9.5, 8.0, 8.0, 6.0],
              checked: Vestry::Deeds::MakeBundle::CHECKS.keys }, by: "Orla", today: today
    )
    rows = %w[P Q].map do |tag|
      each = limb(made.limb.tree, tag, girth_mm: 40, length_mm: 1200)
      Vestry::Deeds::DecideLimb.call(each, { role: "work", technique: "whip-and-tongue", cut: 200.0, variety: kind.id,
                                             practice: "single", season: 2026, against_reason: "for trial" },
                                     by: "Orla", season: 2026)
    end
    places = Vestry::Records::MatchBoard.new(here, 2026, today).places
    named = places.find { |place| place.row.id == rows.first.id }.given.first.stick
    read, go = Queue.new, Queue.new
    allow(Vestry::Deeds::BeginSheet).to receive(:call) { (read << true) && go.pop }
    log = lambda do
      limb = Vestry::Records::Limb[rows.first.limb_id]
      Vestry::Deeds::LogGraft.call(limb, { grafted_on: today, technique: "whip-and-tongue", sticks: 1, cut_mm: 200,
                                           variety_id: kind.id, stub_mm: 11, grafter: "Tam", against_reason: "trial",
                                           scion_mm: named.diameter_mm },
                                   by: "Tam", today: today, bundle: Vestry::Records::Bundle[bundle.id]).set_sticks
    end
    first = Thread.new { log.call }
    read.pop
    Vestry::Deeds::KeepBundle.lock(rows.last, Vestry::Records::Stick[named.id], by: "Orla")
    go << true
    taken = first.value
    expect(taken.map(&:id)).not_to include(named.id)
    expect(taken.map(&:diameter_mm)).to eq [named.diameter_mm]
    expect(Vestry::Records::StickLocks.for_stub(rows.last)).to eq [named.id]
  end
end
