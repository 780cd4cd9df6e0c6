# frozen_string_literal: true

RSpec.describe Vestry::Records::CareSchedule do
  let!(:here) { orchard }
  let!(:stock) { limb(tree(here)) }
  let!(:made) { graft(stock) }
  let(:today) { World::TODAY }

  def refresh(on = today) = described_class.refresh(Vestry::Records::Orchard[here.id], on)
  def stale = described_class.stale(here, today).select_order_map(:graft_id)
  def kept(graft = made) = Vestry::DB[:care_tasks].where(graft_id: graft.id).order(:due_on, :key).select_map(:key)
  def visit(**facts)
    Vestry::Records::Visit.create({ orchard_id: here.id, graft_id: made.id, seen_on: today }.merge(facts))
  end

  it "keeps what a graft needs, and reckons it anew only when something changed" do
    expect(stale).to eq [made.id]
    expect(refresh).to eq 0
    expect(stale).to eq []
    expect(kept).to include("first-look", "slit-tape")
    expect(described_class).not_to receive(:reckon)
    refresh
  end

  it "knows of a graft that was counted dead that it is to be worked again" do
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026, tallied_on: today, alive: false)
    later = today + 1
    refresh(later)
    before = kept
    kind = here.varieties_dataset.first
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[stock.id],
                                   { role: "work", technique: "rind", cut: 450.0, practice: "pair", variety: kind.id,
                                     against_reason: "so", season: 2027 }, by: "Orla", season: 2027)
    refresh(later)
    expect([before, kept].map { |keys| keys.grep(/regraft|plan/).any? }).to eq [true, false]
  end

  it "holds from day to day, but where weather is kept of days that are still to come, and then tomorrow alone" do
    weather = lambda do |forecast|
      Vestry::DB[:weather_days].insert(orchard_id: here.id, day: today + 1, min_c: 4, max_c: 15, forecast: forecast)
    end
    tomorrow = -> { refresh && described_class.stale(here, today + 1).select_map(:graft_id) }
    expect(tomorrow.call).to eq []
    weather[true]
    expect(tomorrow.call).to eq []
    Vestry::DB[:weather_days].delete
    weather[false]
    expect(tomorrow.call).to eq [made.id]
  end

  it "is begun in the background once, while that is under way" do
    job = Vestry::Deeds::Jobs::ReckonCare
    expect(job).to receive(:enqueue).with(here.id, today.iso8601).once
    2.times { job.begin(here, today) }
  end

  it "says how far it is in the background, and that it is done" do
    runs = Vestry::Records::CareRuns
    expect(runs.progress(here)).to eq(state: "done", done: 0, lines: 0)
    other = orchard
    [[here, 3], [other, 5]].each { |place, total| runs.begin(place, total) }
    expect(runs.progress(here)).to eq(state: "running", done: 0, lines: 3)
    made.update(cover: "film")
    Vestry::Deeds::Jobs::ReckonCare.run(here.id, today.iso8601)
    expect(runs.progress(here)).to include(state: "done", done: here.grafts_dataset.count)
    expect(runs.progress(other)).to eq(state: "running", done: 0, lines: 5)
  end

  it "is reckoned again when a crash of the database has emptied what was kept" do
    refresh
    %i[care_tasks care_mark].each { |table| Vestry::DB[table].delete }
    expect(Vestry::Records::Agenda.new(Vestry::Records::Orchard[here.id], today).due_count).to be > 0
    expect(kept).to include "first-look"
  end

  it "is out of date after a visit, a task, a tally, a limb's or a tree's change, weather, and another school" do
    other = graft(limb(tree(orchard)))
    changes = {
      "a visit" => -> { visit(buds: "leafing", verdict: "took") },
      "a task" => -> { Vestry::Records::TaskDone.create(orchard_id: here.id, graft_id: made.id, key: "first-look",
                                                        what: "done", done_on: today) },
      "a tally" => -> { Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026,
                                                      tallied_on: today, alive: true) },
      "the graft" => -> { made.update(cover: "film") },
      "its limb" => -> { stock.update(tag: "Q") },
      "its tree" => -> { stock.tree.update(row: "R") },
      "weather" => -> { Vestry::DB[:weather_days].insert(orchard_id: here.id, day: today, min_c: 5, max_c: 9) },
      "its limb's plan" => lambda do
        plan = Vestry::Records::Plan.create(orchard_id: here.id, tree_id: stock.tree_id, school: here.school)
        Vestry::Records::PlanLimb.create(orchard_id: here.id, plan_id: plan.id, limb_id: stock.id, role: "work",
                                         season: 2027)
      end,
      "another version of it" => -> { stock.tree.reload.plan.update(superseded_at: Time.now) },
      "bark that was seen to lift no longer" => lambda do
        Vestry::Records::PhenologySeen.create(orchard_id: here.id, tree_id: stock.tree_id, seen_on: today - 400,
                                              seen_by: "Orla", closed: true)
      end,
      "that this was none" => -> { Vestry::Records::PhenologySeen.first(closed: true).update(closed: false,
                                                                                            stage: "leaves") },
      "bark of its tree that was seen to lift" => lambda do
        Vestry::Records::PhenologySeen.create(orchard_id: here.id, tree_id: stock.tree_id, seen_on: today,
                                              seen_by: "Orla", slipping: true)
      end,
      "a graft under which it lifted" => lambda do
        under = graft(limb(stock.tree, "W"), grafted_on: today, bark_slip: "clean")
        Vestry::DB[:care_states].where(graft_id: under.id).delete
      end,
      "a visit to another on its limb" => lambda do
        mate = graft(stock, grafted_on: today)
        refresh
        Vestry::Records::Visit.create(orchard_id: here.id, graft_id: mate.id, seen_on: today, buds: "asleep")
        Vestry::DB[:care_states].where(graft_id: mate.id).delete
      end,
      "a school" => -> { here.update(school: "film-wrap") },
      "how high it lies" => -> { here.update(altitude_m: 300) }
    }
    changes.each do |name, change|
      refresh
      expect([name, stale]).to eq [name, []]
      change.call
      expect([name, stale]).to eq [name, [made.id]]
    end
    refresh
    Vestry::DB[:weather_days].insert(orchard_id: here.id, day: today + 1, min_c: 5, max_c: 9, forecast: true)
    here.reload.update(name: "Elsewhere")
    Vestry::Records::PhenologySeen.create(orchard_id: here.id, tree_id: stock.tree_id, seen_on: today, seen_by: "Orla",
                                          stage: "leaves")
    expect(stale).to eq []
    expect(Vestry::DB[:care_states].where(graft_id: other.id).count).to eq 1
  end

  it "names every table whose triggers say that it is out of date" do
    marking = Vestry::DB[<<~SQL].select_map(:relname).uniq
      SELECT pg_class.relname::text FROM pg_trigger JOIN pg_class ON pg_class.oid = tgrelid
        JOIN pg_proc ON pg_proc.oid = tgfoid WHERE NOT tgisinternal AND prosrc ~ 'care_(states|of_tree|of_limb)'
    SQL
    expect(marking - ["orchards"]).to match_array described_class::FROM
  end

  it "turns over by itself on the day its state does" do
    refresh(Date.new(2026, 4, 22))
    expect(Vestry::DB[:care_states].first(graft_id: made.id))
      .to include(state: "knitting", knit_on: Date.new(2026, 5, 12),
        valid_until: Date.new(2026, 5, 11))
    refresh(Date.new(2026, 5, 12))
    expect(Vestry::DB[:care_states].get(:state)).to eq "waiting"
    refresh(Date.new(2026, 4, 25))
    expect(Vestry::DB[:care_states].get(:state)).to eq "knitting"
  end

  it "is reckoned anew by another release, whose rules may be others" do
    refresh
    Vestry::DB[:care_states].where(graft_id: made.id).update(state: "late")
    refresh
    expect(Vestry::DB[:care_states].first(graft_id: made.id)[:state]).to eq "late"
    Vestry::DB[:care_mark].update(release: "an older one")
    refresh
    expect(Vestry::DB[:care_states].first(graft_id: made.id)[:state]).to eq "late"
    described_class.begin_again
    refresh
    expect(Vestry::DB[:care_states].first(graft_id: made.id)[:state]).not_to eq "late"
    expect(Vestry::DB[:care_mark].select_map(:release)).to eq [Vestry::RELEASE]
  end

  it "leaves out what was worked over, what is gone, and what is too old" do
    again = graft(stock, grafted_on: Date.new(2026, 5, 10), cut_mm: 560)
    gone = graft(limb(stock.tree, "G", gone_on: today))
    old = graft(limb(stock.tree, "O"), grafted_on: Date.new(2023, 4, 1))
    hidden = graft(limb(stock.tree, "H"), hidden_at: Time.now)
    expect(refresh).to eq 0
    expect([kept, kept(gone), kept(old), kept(hidden)]).to eq [[], [], [], []]
    expect(kept(again)).to include "first-look"
  end

  it "ties a shoot to its wire where the tree is trained on one, and nowhere else" do
    trained = graft(limb(tree(here, row: "E", number: 1, form: "wall-trained")))
    [made, trained].each { |each| visit(graft_id: each.id, buds: "leafing", callus: "full", longest_shoot_mm: 200.0) }
    refresh
    tied = ->(each) { kept(each).any? { |key| key.start_with?("tie-wire") } }
    expect([tied[made], tied[trained]]).to eq [false, true]
  end

  it "says of one graft what it keeps of all" do
    visit(buds: "asleep", callus: "some")
    refresh
    told = described_class.care(Vestry::Records::Graft[made.id], today)
    open = told[:tasks].select { |task| %w[ahead open late].include?(task[:status]) && task[:closes_on] >= today &&
                                 task[:opens_on] <= today + described_class::AHEAD }.map do |task|
      task[:key]
    end
    expect(kept).to match_array open
  end

  describe Vestry::Records::Agenda do
    def agenda(**only) = described_class.new(Vestry::Records::Orchard[here.id], today, **only)

    it "goes by urgency and then as one walks, by person, by row, and within days" do
      second = graft(limb(tree(here, row: "B", number: 2)), grafter: "Tam Reddaway")
      first = graft(limb(tree(here, row: "B", number: 1)), grafter: "Tam Reddaway")
      looks = agenda.due.select { |item| item.task[:rule] == "first-look" }.map { |item| item.of.id }
      expect(looks).to eq [made.id, first.id, second.id]
      expect(agenda(person: "Tam Reddaway").due.map { |item| item.of.id }.uniq).to eq [first.id, second.id]
      expect(agenda(row: "A").due.map(&:label).uniq).to eq ["A1 A"]
      expect(agenda(within: 0).due_count).to be < agenda.due_count
      expect(agenda.people).to eq("Tam Reddaway" => 2, "Orla Finch" => 1)
      expect(agenda.due_trees.select_map(:tree_id)).to match_array([made, first, second]
        .map { |graft| graft.limb.tree_id })
    end

    it "names the days on which something falls due, up to the very last, and until the day on which it is over" do
      graft(stock)
      agenda.due
      task = Vestry::DB[:care_tasks].order(:key).get(:key)
      Vestry::DB[:care_tasks].exclude(key: task).delete
      days = lambda do |due, closes, upto|
        Vestry::DB[:care_tasks].update(due_on: today + due, closes_on: today + closes)
        agenda.due_days(today + upto).map { |day| (day - today).to_i }
      end
      expect([days[9, 20, 9], days[9, 20, 8], days[-2, 0, 5], days[-2, -1, 5]]).to eq [[9], [], [-2], []]
    end

    it "takes in stripped trunks" do
      Vestry::Records::Wound.create(orchard_id: here.id, tree_id: stock.tree_id, found_on: today - 3, girth_mm: 500,
                                    bark_left: 0.1, cause: "teeth")
      expect(agenda.due.first.label).to eq "A1"
      expect(agenda.due.select(&:wound?).map { |item| item.task[:rule] }).to include "cover"
      expect(agenda.due_days(today + 30)).to include(today - 2)
    end

    it "says of a stripped trunk too what comes in so many days alone, and of what is open nothing" do
      Vestry::Records::Wound.create(orchard_id: here.id, tree_id: stock.tree_id, found_on: today - 3, girth_mm: 500,
                                    bark_left: 0.1, cause: "teeth", covered_on: today - 3, repaired_on: today - 3,
                                    course: "bridge")
      tasks = agenda.ahead(days: 400).select(&:wound?).map(&:task)
      first = tasks.map { |task| task[:opens_on] }.min
      expect(tasks.size).to be > 1
      expect(tasks.map { |task| task[:status] }.uniq).to eq ["ahead"]
      near = agenda.ahead(days: (first - today).to_i).select(&:wound?).map { |item| item.task[:opens_on] }
      expect(near.uniq).to eq [first]
      expect(agenda.ahead(days: (first - today).to_i - 1).select(&:wound?)).to eq []
    end

    it "stores no count that is older than what another connection wrote meanwhile" do
      counts = agenda
      key = counts.due.first.task[:key]
      Thread.new do
        Vestry::Records::TaskDone.create(orchard_id: here.id, graft_id: made.id, key: key, what: "done",
                                         done_on: today)
      end.join
      counts.due_count
      expect(agenda.due_count).to eq agenda.due.size
    end

    it "stores no year of which some is not reckoned yet" do
      limbs = Array.new(2) { |i| limb(stock.tree, "L#{i}") }
      limbs.each_with_index { |each, i| graft(each, grafted_on: today - 40 + i * 11) }
      ticks = -> { Vestry::Records::YearWindows.of(Vestry::Records::Orchard[here.id], today)
        .filter_map { |each| each[:from] if each[:name] == "Due" } }
      stub_const("Vestry::Records::CareSchedule::AT_ONCE", 1)
      seen = Array.new(4) { ticks.call }
      expect(seen.map(&:size)).to eq seen.map(&:size).sort
      expect(seen[0].size).to be < seen[3].size
      expect(seen[3]).to eq agenda.due_days(today + Vestry::Records::CareSchedule::AHEAD)
    end

    it "counts what is open as it stands, stored or not" do
      counts = -> { agenda.then { |each| [each.due_count, each.late_count, each.rows_due, each.due.size] } }
      before = counts.call
      expect(before).to eq [before.last, before[1], { stock.tree.row => before.last }, before.last]
      expect(before.last).to be_positive
      expect(counts.call).to eq before
      Vestry::Records::TaskDone.create(orchard_id: here.id, graft_id: made.id, key: agenda.due.first.task[:key],
                                       what: "done", done_on: today)
      expect(counts.call.values_at(0, 3)).to eq [before[0] - 1, before[0] - 1]
    end
  end
end

RSpec.describe "Aftercare that is kept and aftercare that is asked for" do
  let!(:here) { orchard }
  let!(:made) { graft(limb(tree(here)), grafted_on: Date.new(2026, 4, 10)) }

  def kept(day)
    Vestry::Records::CareSchedule.refresh(Vestry::Records::Orchard[here.id], day)
    Vestry::DB[:care_tasks].where(graft_id: made.id).where { (opens_on <= day) & (closes_on >= day) }
      .select_order_map(:key)
  end

  def asked(day)
    Vestry::Records::CareSchedule.care(Vestry::Records::Graft[made.id], day)[:tasks]
      .select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:key] }.sort
  end

  it "say the same on every day after a gale and a frost, until each is over, and can be ticked" do
    days = (Date.new(2026, 4, 1)..Date.new(2026, 7, 1)).map do |day|
      { orchard_id: here.id, day: day, min_c: day == Date.new(2026, 5, 24) ? -4.0 : 8.0, max_c: 18.0, rain_mm: 3.0,
        gust_ms: day == Date.new(2026, 5, 20) ? 20.0 : 4.0, forecast: false }
    end
    Vestry::DB[:weather_days].multi_insert(days)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 5, 10),
                                        buds: "leafing", verdict: "took")
    seen = (Date.new(2026, 5, 18)..Date.new(2026, 6, 12)).map do |day|
      expect([day, kept(day)]).to eq [day, asked(day)]
      asked(day).map { |key| key[/\A[a-z-]+/] }
    end
    expect(seen.count { |rules| rules.include?("after-gale") }).to eq 11
    expect(seen.count { |rules| rules.include?("after-frost") }).to eq 14
    Vestry::Deeds::SettleTask.call(Vestry::Records::Graft[made.id], "after-frost:2026-05-24", "done", by: "Tam",
                                   today: Date.new(2026, 6, 5))
    expect(kept(Date.new(2026, 6, 5))).not_to include("after-frost:2026-05-24")
  end

  it "look after a graft that is dated ahead from its day on" do
    ahead = graft(limb(tree(here)), grafted_on: Date.new(2026, 5, 20))
    keys = lambda do |day|
      Vestry::Records::CareSchedule.refresh(Vestry::Records::Orchard[here.id], day)
      Vestry::DB[:care_tasks].where(graft_id: ahead.id).count
    end
    expect((18..21).map { |day| keys[Date.new(2026, 5, day)].positive? }).to eq [false, false, true, true]
  end

  it "take the autumn tally as done once it was counted" do
    day = Date.new(2026, 9, 30)
    expect(asked(day)).to include("tally")
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: 2026, tallied_on: day, alive: true)
    expect([kept(day), asked(day)].map { |keys| keys.include?("tally") }).to eq [false, false]
  end
end
