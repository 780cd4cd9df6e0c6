# frozen_string_literal: true

RSpec.describe "mending", :core do
  FACTS = { course: "bridge", cause: "teeth", species: "apple", girdled_share: 0.8, found_on: "2026-01-20",
            slips_on: "2026-04-15", school: "waxed-rind" }.freeze

  def mending(today, **more) = reckon("mending", FACTS.merge(today: today, **more))
  def dates(answer, key)
    answer[:tasks].find { |task| task[:key] == key }&.values_at(:opens_on, :due_on, :closes_on)&.map do |each|
      each.strftime("%m-%d")
    end
  end
  def keys(answer, *status) = answer[:tasks].select { |task| status.include?(task[:status]) }.map { |task| task[:key] }

  it "begins with cover, sound bark and saved wood" do
    answer = mending("2026-01-20")
    expect(answer[:state]).to eq "bare"
    expect(keys(answer, "open")).to eq %w[cover keep-off save-wood dig]
    expect(dates(mending("2026-01-20", closes_on: "2026-06-20"), "bridge")).to eq %w[04-15 04-22 06-20]
    expect(dates(answer, "strip-blossom")).to eq %w[04-08 04-22 05-25]
  end

  it "looks under the cover until bark slips" do
    answer = mending("2026-02-01", covered_on: "2026-01-21")
    expect(answer[:state]).to eq "covered"
    expect(dates(answer, "cover")).to be_nil
    expect(dates(answer, "look-under:1")).to eq %w[01-28 01-31 02-11]
    after = mending("2026-02-01", covered_on: "2026-01-21", done: [{ key: "look-under:1", on: "2026-01-30" }])
    expect(dates(after, "look-under:2")).to eq %w[02-13 02-16 02-27]
  end

  it "follows a bridge through its first year" do
    answer = mending("2026-04-21", covered_on: "2026-01-21", repaired_on: "2026-04-20")
    expect(answer[:state]).to eq "knitting"
    expect([dates(answer, "seals"), dates(answer, "support"), dates(answer, "guard"), dates(answer, "rub-buds:1"),
            dates(answer, "loosen")])
      .to eq [%w[04-22 04-25 05-04], %w[04-20 04-27 05-20], %w[04-20 04-22 06-19], %w[05-04 05-08 05-18],
              %w[06-04 06-29 08-08]]
    expect(dates(answer, "bridge")).to be_nil
    expect(dates(answer, "fates-autumn")).to eq %w[09-15 10-30 11-29]
    expect(dates(answer, "second-fates")).to eq %w[05-15 05-30 06-29]
  end

  it "holds, fails, asks for another scion, and is lost" do
    seen = ->(leaves, fates) { [{ on: "2026-06-01", leaves: leaves,
                                  scions: fates.each_with_index.map { |fate, i| { id: i + 1, fate: fate } } }] }
    base = { covered_on: "2026-01-21", repaired_on: "2026-04-20" }
    holds = mending("2026-06-02", **base, visits: seen.call("full", %w[alive alive dead]), carried: 0.66)
    expect([holds[:state], holds[:dead], dates(holds, "set-again:2026-06-01")])
      .to eq ["holding", [3], %w[06-01 06-08 10-29]]
    expect(mending("2026-06-02", **base, visits: seen.call("thin", %w[alive dead dead]), carried: 0.33)[:state])
      .to eq "failing"
    lost = mending("2026-06-02", **base, visits: seen.call("none", %w[dead dead dead]), carried: 0.0)
    expect([lost[:state], keys(lost, "open", "late")]).to eq ["lost", []]
  end

  it "strips the blossom in the spring of the repair, and not again every spring" do
    strip = lambda do |repaired_on, slips_on|
      answer = mending("2027-04-20", repaired_on: repaired_on, slips_on: slips_on)
      answer[:tasks].find { |task| task[:key] == "strip-blossom" }&.values_at(:opens_on, :status)
        &.map(&:to_s)
    end
    expect([strip["2026-04-20", "2026-04-15"], strip["2026-04-20", "2027-04-16"], strip["2026-02-10", "2028-04-15"],
            strip["2026-08-19", "2027-04-16"], strip["2026-08-18", "2027-04-16"]])
      .to eq [%w[2026-04-08 passed], %w[2026-04-09 passed], %w[2026-04-08 passed], %w[2027-04-09 open],
              %w[2026-04-09 passed]]
  end

  it "neither holds nor fails while nobody has looked at what was set" do
    states = %w[2026-05-10 2026-05-11 2027-06-20].map do |day|
      mending(day, repaired_on: "2026-04-20", visits: [{ on: "2026-05-01", leaves: "full" }])[:state]
    end
    expect(states).to eq %w[knitting unseen unseen]
    expect(Vestry::Core::Repair::Mending.settled?("unseen")).to be false
  end

  it "asks for another scion from the day one was seen dead, and while all live for none" do
    look = ->(on, *fates) { { on: on, scions: fates.each_with_index.map { |fate, i| { id: i + 1, fate: fate } } } }
    base = { covered_on: "2026-01-21", repaired_on: "2026-04-20" }
    again = ->(*visits) { keys(mending("2026-06-20", **base, visits: visits), "open", "late").grep(/set-again/) }
    expect(again[look["2026-06-15", "alive", "alive"]]).to eq []
    expect(again[look["2026-06-12", "dead", "alive"], look["2026-06-15", "dead", "alive"]].size).to eq 1
    expect(again[look["2026-06-12", "alive", "alive"], look["2026-06-15", "alive", "dead"]])
      .to eq ["set-again:2026-06-15"]
  end

  # Three set on 20 April, and others on the days that are named; ids in order.
  def bridge_on(day, later, *visits, carried: 0.6, **more)
    set = [*["2026-04-20"] * 3, *later].each_with_index.map { |on, i| { id: i + 1, on: on } }
    seen = visits.map do |on, fates|
      { on: on, scions: fates.map { |id, alive| { id: id, fate: alive ? "alive" : "dead" } } }
    end
    mending(day, **barks(day), repaired_on: "2026-04-20", set: set, visits: seen, carried: carried, **more)
  end
  DEAD = { 1 => false, 2 => false, 3 => true }.freeze

  it "asks no more for what was set anew: one for each that died, since it was seen dead" do
    again = lambda do |day, later, *visits|
      bridge_on(day, later, *visits)[:tasks].find { |task| task[:rule] == "set-again" }
    end
    said = ->(*facts) { again[*facts].values_at(:key, :status, :settled_on).map { |each| each&.to_s } }
    look = ["2026-05-10", DEAD]
    open = ["set-again:2026-05-10", "open", nil]
    expect(said["2026-05-17", [], look]).to eq open
    expect(said["2026-05-17", %w[2026-05-17], look]).to eq open
    # One that was set before it died replaces none.
    expect(said["2026-05-17", %w[2026-05-09 2026-05-17], look]).to eq open
    done = said["2026-05-18", %w[2026-05-12 2026-05-17], look]
    expect(done).to eq ["set-again:2026-05-10", "done", "2026-05-17"]
    expect(again["2026-05-18", %w[2026-05-12 2026-05-17], look][:reasons].first)
      .to eq(code: "care_set", on: Date.new(2026, 5, 17))
    # Not from tomorrow's, and a look at the same dead ones is no other death.
    expect(said["2026-05-16", %w[2026-05-12 2026-05-17], look][1]).to eq "open"
    expect(said["2026-06-10", %w[2026-05-12 2026-05-17], look, ["2026-06-05", DEAD]]).to eq done
    expect(said["2026-06-10", %w[2026-05-12 2026-05-17], look, ["2026-06-05", DEAD.merge(4 => false)]])
      .to eq ["set-again:2026-06-05", "open", nil]
  end

  it "follows what was set later: its joints, its buds, whether it lives, and what holds it" do
    told = lambda do |day, *visits|
      bridge_on(day, %w[2026-05-12 2026-05-17], ["2026-05-10", DEAD], *visits)[:tasks]
        .to_h { |task| [task[:key], [task[:status], task[:opens_on].strftime("%m-%d")]] }
    end
    knit = Date.new(2026, 5, 17) + Vestry::Core::Rulebook.shipped.value("species.apple.knit_days")
    expect(told["2026-05-20"].slice("seals-later:2026-05-17", "later-fates:2026-05-17", "loosen-later:2026-05-17"))
      .to eq("seals-later:2026-05-17" => %w[open 05-19],
             "later-fates:2026-05-17" => ["ahead", knit.strftime("%m-%d")],
             "loosen-later:2026-05-17" => %w[ahead 07-01])
    expect(told[knit.iso8601]["later-fates:2026-05-17"].first).to eq "open"
    # A look before they can have knit says nothing of that.
    expect(told[knit.iso8601, [(knit - 1).iso8601, { 4 => true }]]["later-fates:2026-05-17"].first).to eq "open"
    expect(told[knit.iso8601, [knit.iso8601, { 4 => true, 5 => true }]]["later-fates:2026-05-17"].first).to eq "done"
    # Buds are rubbed off as those of the first, while that is asked; of what is set in a later spring by itself.
    expect(told["2026-06-01"].keys.grep(/rub-buds-later/)).to eq []
    next_spring = bridge_on("2027-05-06", %w[2027-04-20], ["2026-10-10", { 1 => false, 2 => true, 3 => true }])
    expect(keys(next_spring, "open").grep(/rub-buds/)).to eq ["rub-buds-later:1"]
    expect(bridge_on("2026-05-20", [], ["2026-05-10", DEAD])[:tasks].map { |task| task[:rule] }.grep(/later/)).to eq []
  end

  it "does not call failing what was set anew and has not been looked at" do
    state = lambda do |day, later, carried, *visits|
      bridge_on(day, later, *visits, carried: carried).values_at(:state, :unseen)
    end
    look = ["2026-05-10", DEAD]
    later = Date.new(2026, 5, 17) + Vestry::Core::Rulebook.shipped.value("species.apple.knit_days")
    expect(state["2026-05-16", %w[2026-05-17], 0.3, look]).to eq ["failing", []]
    expect(state["2026-05-17", %w[2026-05-17], 0.3, look]).to eq ["knitting", [4]]
    expect(state[(later - 1).iso8601, %w[2026-05-17], 0.3, look]).to eq ["knitting", [4]]
    expect(state[later.iso8601, %w[2026-05-17], 0.3, look]).to eq ["unseen", [4]]
    expect(state[later.iso8601, %w[2026-05-17], 0.3, look, [later.iso8601, { 4 => false }]]).to eq ["failing", []]
    expect(state["2026-05-17", %w[2026-05-17], 0.6, look]).to eq ["holding", [4]]
    expect(bridge_on("2026-05-17", %w[2026-05-17], look)[:knit_on]).to eq later
    # One looked at and dead, the rest not looked at: nothing is known of them yet.
    expect(state["2026-05-12", [], 0.0, ["2026-05-10", { 1 => false }]]).to eq ["unseen", [2, 3]]
  end

  it "takes a cover off before winter that lies over what closes by itself" do
    off = ->(**more) { task_on("2026-10-01", "2026-03-01", "uncover-trunk", covered_on: "2026-03-02", **more) }
    expect(off[course: "dress"]).to eq %w[open 2026-09-15 2026-10-15 2026-11-29]
    expect(off[]).to be_nil
  end

  it "says whether bark slips already where the wound is found, or is only expected to" do
    basis = lambda do |found|
      bridge = mending(found, found_on: found)[:tasks].find { |task| task[:key] == "bridge" }
      bridge[:reasons].first.values_at(:on, :basis)
    end
    expect(%w[2026-04-14 2026-04-15 2026-04-16].map(&basis))
      .to eq [[Date.new(2026, 4, 15), "expected"], [Date.new(2026, 4, 15), "expected"],
              [Date.new(2026, 4, 16), "already"]]
  end

  # This season's bark as it is known on a day, and the next season's.
  def barks(day)
    year = Date.parse(day).then { |date| date.month > 10 ? date.year + 1 : date.year }
    { slips_on: "#{year}-04-15", closes_on: "#{year}-06-20", next_slips_on: "#{year + 1}-04-18" }
  end

  def task_on(day, found, key, **more)
    task = mending(day, found_on: found, **barks(day), **more)[:tasks].find { |each| each[:key] == key }
    task && [task[:status], *task.values_at(:opens_on, :due_on, :closes_on).map(&:iso8601)]
  end

  it "is told to set no bridge while bark is closed, but from the day on which it slips again" do
    expect(task_on("2026-06-20", "2026-06-01", "bridge")).to eq %w[late 2026-06-01 2026-06-08 2026-06-20]
    expect(task_on("2026-06-21", "2026-06-01", "bridge")).to eq %w[ahead 2027-04-18 2027-04-25 2027-06-20]
    expect(task_on("2026-09-22", "2026-09-20", "bridge")).to eq %w[ahead 2027-04-18 2027-04-25 2027-06-20]
    expect(task_on("2026-11-10", "2026-09-20", "bridge")).to eq %w[ahead 2027-04-15 2027-04-22 2027-06-20]
    expect(task_on("2026-09-22", "2026-09-20", "strip-blossom")).to eq %w[ahead 2027-04-11 2027-04-25 2027-05-28]
    expect(%w[inarch stump-graft].map { |course| task_on("2026-09-22", "2026-09-20", course, course: course)[1] })
      .to eq %w[2027-04-18 2027-04-18]
  end

  it "saves the wood while it sleeps: from the fall of the leaves, or at once, until bark slips" do
    expect(task_on("2026-09-22", "2026-09-20", "save-wood")).to eq %w[ahead 2026-11-05 2026-11-08 2026-12-15]
    expect(task_on("2026-01-20", "2026-01-20", "save-wood")).to eq %w[open 2026-01-20 2026-01-23 2026-03-01]
    expect(task_on("2026-04-14", "2026-04-14", "save-wood")).to eq %w[open 2026-04-14 2026-04-15 2026-04-15]
    expect(task_on("2026-05-02", "2026-05-01", "save-wood")).to be_nil
  end

  it "saves the buds of what was found in leaf, between the opening of bark and autumn" do
    saved = ->(day) { task_on(day, day, "save-buds", course: "stump-graft")&.first }
    expect(%w[2026-04-14 2026-04-15 2026-06-20 2026-06-21 2026-09-14 2026-09-15 2026-11-10].map(&saved))
      .to eq [nil, "open", "open", "open", "open", nil, nil]
  end

  it "saves no wood of a kind that never sleeps: it is cut on the day" do
    saved = lambda do |day, species|
      mending(day, found_on: day, **barks(day), species: species, course: "stump-graft")[:tasks]
        .map { |task| task[:rule] } & %w[save-wood save-buds]
    end
    expect(%w[2026-01-20 2026-05-10 2026-11-10].map { |day| saved[day, "citrus"] }).to eq [[], [], []]
    expect(%w[2026-01-20 2026-05-10 2026-11-10].map { |day| saved[day, "apple"] })
      .to eq [%w[save-wood], %w[save-buds], %w[save-wood]]
  end

  it "asks to cut a stem until it is cut, and for one of its shoots only then" do
    cut = { course: "cut-back", cause: "sun" }
    expect(task_on("2027-09-20", "2026-05-01", "cut-below", **cut)).to eq %w[late 2026-05-01 2026-05-22 2028-04-30]
    expect(task_on("2026-09-20", "2026-05-01", "choose-shoot", **cut)).to be_nil
    expect(task_on("2026-09-20", "2026-05-01", "choose-shoot", **cut, repaired_on: "2026-05-03"))
      .to eq %w[late 2026-07-17 2026-09-15 2026-11-14]
  end

  it "keeps off at once what stripped it, and before each winter that there is time for" do
    guards = lambda do |day, found, **more|
      %w[keep-off guard-autumn].map { |key| task_on(day, found, key, **more)&.first(2) }
    end
    expect(guards["2026-01-20", "2026-01-20"]).to eq [%w[open 2026-01-20], %w[ahead 2026-10-15]]
    expect(guards["2026-09-22", "2026-09-22"]).to eq [%w[open 2026-09-22], %w[ahead 2026-10-15]]
    # What nobody knew of is not late on the day on which it is found.
    expect(guards["2026-12-13", "2026-12-13"][1]).to eq %w[open 2026-12-13]
    expect(task_on("2026-11-20", "2026-11-20", "clean-foot")).to eq %w[open 2026-11-20 2026-11-29 2026-11-29]
    expect(guards["2026-12-15", "2026-12-15"][1]).to eq %w[ahead 2027-10-15]
    expect(guards["2026-04-21", "2026-04-01", repaired_on: "2026-04-20"][0]).to be_nil
    # What closes by itself is as much in reach of it once it is covered.
    expect(guards["2026-01-21", "2026-01-20", course: "dress", covered_on: "2026-01-20"][0]).to eq %w[open 2026-01-20]
    expect(guards["2026-04-21", "2026-04-01", cause: "sun"]).to eq [nil, nil]
  end

  it "asks for more beside what lives, where that carries too little" do
    more = lambda do |day, seen_on, carried, *fates|
      seen = [{ on: seen_on, scions: fates.each_with_index.map { |fate, i| { id: i, fate: fate } } }]
      task_on(day, "2026-01-20", "set-more", repaired_on: "2026-04-20", visits: seen, carried: carried)
    end
    expect(more["2026-06-02", "2026-06-01", 0.2, "alive"]).to eq %w[open 2026-06-01 2026-06-08 2026-06-20]
    expect(more["2026-09-20", "2026-06-01", 0.2, "alive"]).to eq %w[ahead 2027-04-18 2027-04-25 2027-06-20]
    expect(more["2026-06-02", "2026-06-01", 0.5, "alive"]).to be_nil
    expect(more["2026-06-02", "2026-06-01", 0.2, "alive", "dead"]).to be_nil
  end

  it "looks in autumn at what was set, and at nothing where nothing was" do
    autumn = ->(**more) { task_on("2026-10-01", "2026-01-20", "fates-autumn", **more)&.first }
    expect([autumn[], autumn[covered_on: "2026-01-21"], autumn[repaired_on: "2026-04-20"]]).to eq [nil, nil, "open"]
  end

  it "sets another for one that died when bark slips again" do
    dead = lambda do |on, day|
      seen = [{ on: on, scions: [{ id: 1, fate: "dead" }, { id: 2, fate: "alive" }] }]
      task_on(day, "2026-01-20", "set-again:#{on}", repaired_on: "2026-04-20", visits: seen)
    end
    expect(dead["2026-06-10", "2026-06-12"]).to eq %w[open 2026-06-10 2026-06-17 2026-06-20]
    expect(dead["2026-09-30", "2026-10-01"]).to eq %w[ahead 2027-04-18 2027-04-25 2027-06-20]
    expect(dead["2026-09-30", "2027-04-20"]).to eq %w[open 2027-04-15 2027-04-22 2027-06-20]
    # Once, and not every spring.
    expect(dead["2026-09-30", "2028-04-20"]).to eq %w[passed 2027-04-15 2027-04-22 2027-06-20]
    expect(dead["2026-06-10", "2027-04-20"]).to eq %w[passed 2026-06-10 2026-06-17 2026-06-20]
    failing = mending("2028-04-20", found_on: "2026-01-20", **barks("2028-04-20"), repaired_on: "2026-04-20",
                      carried: 0.0, visits: [{ on: "2026-09-30", scions: [{ id: 1, fate: "dead" }] }])
    expect(keys(failing, "open")).to include "set-again:2026-09-30"
    task = mending("2026-10-01", found_on: "2026-01-20", **barks("2026-10-01"), repaired_on: "2026-04-20",
                   visits: [{ on: "2026-09-30", scions: [{ id: 1, fate: "dead" }] }])[:tasks]
      .find { |each| each[:rule] == "set-again" }
    expect(task[:reasons].first).to include(after: "slips-again", on: Date.new(2027, 4, 18), days: 7)
  end

  it "knits by the temperatures where they are known" do
    cold = (0..40).map { |i| { date: (Date.new(2026, 4, 20) + i).iso8601, min_c: 6, max_c: 17 } }
    expect(mending("2026-06-01", repaired_on: "2026-04-20", weather: cold))
      .to include(knit_on: Date.new(2026, 5, 6), knit_basis: "temperature")
  end

  it "plants and sets stocks where no root bark lives, and cuts a thin stem below" do
    inarch = mending("2026-01-20", course: "inarch", closes_on: "2026-06-20")
    expect(keys(inarch, "open")).to include "plant-stocks"
    expect(dates(inarch, "inarch")).to eq %w[04-15 04-30 06-20]
    # Found while bark slips: they stand in the soil before their tops are asked for.
    late = mending("2026-05-01", course: "inarch", found_on: "2026-05-01", closes_on: "2026-06-20")
    expect([dates(late, "plant-stocks"), dates(late, "inarch")].map { |days| days[1] }).to eq %w[05-15 05-16]
    cut = mending("2026-01-20", course: "cut-back")
    expect(keys(cut, "open")).to eq %w[keep-off save-wood cut-below]
    expect(mending("2026-03-01", course: "cut-back", repaired_on: "2026-02-01")[:state]).to eq "cut"
    expect(mending("2026-01-22", course: "dress", covered_on: "2026-01-21")[:state]).to eq "mended"
  end

  it "prevents the same again by its cause, in the south too" do
    by = ->(cause, **more) { mending("2026-01-20", cause: cause, course: "dress", repaired_on: "2026-01-20",
                                     **more)[:tasks].map { |task| task[:key] } & %w[guard guard-autumn clean-foot
                                       whitewash-trunk] }
    expect(%w[teeth strimmer sun other].map { |cause| by.call(cause).sort })
      .to eq [%w[clean-foot guard guard-autumn], %w[clean-foot], %w[whitewash-trunk], []]
    south = mending("2026-10-20", southern: true, repaired_on: "2026-10-20", found_on: "2026-07-20",
                    slips_on: "2026-10-15")
    expect(dates(south, "fates-autumn")).to eq %w[03-15 04-29 05-29]
  end

  it "keeps what a person put off" do
    off = mending("2026-01-22", done: [{ key: "dig", on: "2026-01-21", what: "put-off", until: "2026-02-10",
                                         why: "frozen ground" }])
    task = off[:tasks].find { |each| each[:key] == "dig" }
    expect([task[:status], task[:opens_on].iso8601, task[:reasons].first[:code]])
      .to eq ["ahead", "2026-02-10", "care_put_off"]
  end
end
