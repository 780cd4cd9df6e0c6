# frozen_string_literal: true

# Grafts as they go, each with every date that its care comes to. The years are those of the grafts.
RSpec.describe "The stories of grafts", :core do
  def days(spans)
    day = Date.new(2026, 4, 20)
    spans.flat_map do |count, min, max, more|
      Array.new(count) { { date: day.iso8601, min_c: min, max_c: max, **(more || {}) }.tap { day += 1 } }
    end
  end

  def self.graft(**more) = { grafted_on: "2026-04-20", method: "rind", species: "apple", sticks: 2 }.merge(more)

  def told(facts)
    facts = facts.merge(weather: days(facts[:weather])) if facts[:weather]
    answer = reckon("care", { graft: self.class.graft, school: "waxed-rind" }.merge(facts))
    ["#{answer[:state]} #{answer[:knit_basis]} #{answer[:knit_on]}",
     *answer[:tasks].map { |task| [task[:key], *task.values_at(:opens_on, :due_on,
                                                               :closes_on).map { |day| day.strftime("%m-%d") },
                                                               task[:status]].join(" ") }]
  end

  TOOK = { on: "2026-05-18", buds: "leafing", verdict: "took" }.freeze
  MILD = [[70, 8, 18, { rain_mm: 3 }]].freeze

  it "buds swell before callus can have knit" do
    expect(told({ today: "2026-05-03", weather: [[14, 4, 12]],
                  observations: [{ on: "2026-05-01", buds: "swelling", callus: "none" }] })).to eq [
      "false-start temperature-so-far 2026-05-18",
      "wax-check 04-22 04-25 05-04 late",
      "false-start:1 05-01 05-03 05-08 open",
      "first-look 05-18 05-25 06-15 ahead",
      "probation-look:1 06-12 06-19 07-03 ahead",
      "slit-tape 06-19 07-19 11-06 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead"
    ]
  end

  it "moves too soon, and is not looked at for weeks: it is shaded no more, and looked at by and by" do
    moved = { on: "2026-05-01", buds: "swelling", callus: "none" }
    asked = lambda do |day, *looks|
      told({ today: day, weather: [[14, 4, 12]], observations: [moved, *looks] }).grep(/false-start:|probation/)
        .grep(/open|late/).map { |line| line.split.values_at(0, -1).join(" ") }
    end
    # Weeks of shade, the last of which begins within six of when buds moved; a look every three weeks from then on.
    expect([asked["2026-06-08"], asked["2026-06-11"], asked["2026-06-18"], asked["2026-08-10"]])
      .to eq [["false-start:5 late"], ["false-start:6 open"], ["probation-look:1 open"], ["probation-look:3 late"]]
    expect(asked["2026-06-20", { on: "2026-06-19", buds: "leafing", callus: "none" }]).to eq []
    expect(asked["2026-07-10", { on: "2026-06-19", buds: "leafing", callus: "none" }]).to eq ["probation-look:2 open"]
    expect(asked["2026-07-04", { on: "2026-06-19", callus: "full" }]).to eq []
  end

  it "says of each round and year what it hangs on" do
    reasons = lambda do |today, rule, **facts|
      reckon("care", graft: self.class.graft(**facts), school: "waxed-rind", today: today,
                     observations: [TOOK])[:tasks].select { |task| task[:rule] == rule }.to_h do |task|
        [task[:key], task[:reasons].first.values_at(:code, :on).map(&:to_s)]
      end
    end
    expect(reasons["2026-07-01", "stock-shoots-later"])
      .to eq("stock-shoots-later:1" => %w[care_after 2026-05-18], "stock-shoots-later:2" => %w[care_missed 2026-06-15])
    looks = reasons["2030-07-10", "yearly-look", scaffold_on: "2028-10-20"].values
    expect(looks.uniq).to eq [%w[care_yearly 2028-10-20]]
  end

  it "nothing moves for seven weeks, and then it takes" do
    expect(told({ today: "2026-06-10", weather: MILD,
                  observations: [{ on: "2026-05-20", buds: "asleep", callus: "some" },
                                 { on: "2026-06-08", buds: "leafing", verdict: "took" }] })).to eq [
      "growing temperature 2026-05-04",
      "wax-check 04-22 04-25 05-04 passed",
      "first-look 05-04 05-11 06-01 done",
      "stock-shoots-later:1 06-15 06-22 07-06 ahead",
      "aphids 06-18 06-28 08-07 ahead",
      "shorten 07-03 07-10 08-25 ahead",
      "choose 06-29 07-13 08-10 ahead",
      "slit-tape 06-19 07-19 11-06 ahead",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "thin-ring 12-15 02-13 03-15 ahead",
      "no-fruit 05-15 05-30 06-29 ahead"
    ]
  end

  it "the wax cracks" do
    expect(told({ today: "2026-05-07", observations: [{ on: "2026-05-06", seal: "cracked" }] })).to eq [
      "knitting calendar 2026-05-11",
      "wax-check 04-22 04-25 05-04 done",
      "reseal:2026-05-06 05-06 05-07 05-16 open",
      "first-look 05-11 05-18 06-08 ahead",
      "open-if-still 05-25 05-30 06-24 ahead",
      "stock-shoots-later:1 05-25 06-01 06-15 ahead",
      "aphids 05-28 06-07 07-17 ahead",
      "shorten 06-12 06-19 08-04 ahead",
      "choose 06-08 06-22 07-20 ahead",
      "slit-tape 06-19 07-19 11-06 ahead",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "thin-ring 12-15 02-13 03-15 ahead",
      "no-fruit 05-15 05-30 06-29 ahead"
    ]
  end

  it "tape that does not perish is never slit" do
    expect(told({ today: "2026-09-03", observations: [{ on: "2026-05-20", buds: "leafing", verdict: "took" },
                                                      { on: "2026-09-02", wrap: "biting" }] })).to eq [
      "growing calendar 2026-05-11",
      "wax-check 04-22 04-25 05-04 passed",
      "first-look 05-11 05-18 06-08 done",
      "stock-shoots-later:1 05-27 06-03 06-17 passed",
      "aphids 05-30 06-09 07-19 passed",
      "shorten 06-14 06-21 08-06 passed",
      "choose 06-10 06-24 07-22 passed",
      "stock-shoots-later:2 06-18 06-25 07-09 passed",
      "stock-shoots-later:3 07-10 07-17 07-31 passed",
      "stock-shoots-later:4 08-01 08-08 08-22 passed",
      "stock-shoots-later:5 08-23 08-30 09-13 late",
      "slit-now:2026-09-02 09-02 09-02 09-16 late",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "thin-ring 12-15 02-13 03-15 ahead",
      "no-fruit 05-15 05-30 06-29 ahead"
    ]
  end

  it "a hot spring under foil and bag" do
    expect(told({ graft: self.class.graft(cover: "foil-and-bag", method: "inlay", sticks: 1), school: "covered-inlay",
                  today: "2026-05-12", weather: [[20, 10, 24], [3, 16, 33]] })).to eq [
      "waiting temperature 2026-05-01",
      "first-look 05-01 05-08 05-29 late",
      "stock-shoots:1 05-04 05-08 05-18 late",
      "shade 05-10 05-11 05-20 late",
      "whitewash 05-10 05-17 06-19 open",
      "open-if-still 05-15 05-20 06-14 ahead",
      "aphids 05-18 05-28 07-07 ahead",
      "uncover 05-26 05-30 06-09 ahead",
      "brace 05-26 06-05 07-10 ahead",
      "choose 05-29 06-12 07-10 ahead",
      "slit-tape 06-19 07-19 11-06 ahead",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "no-fruit 05-15 05-30 06-29 ahead"
    ]
  end

  it "a gale in July" do
    expect(told({ today: "2026-07-09", weather: [[78, 9, 19, { gust_ms: 6, rain_mm: 6 }],
                                                 [1, 9, 17, { gust_ms: 21, rain_mm: 9 }], [1, 9, 17, { rain_mm: 1 }]],
                                                 observations: [TOOK, { on: "2026-06-20", buds: "leafing",
                                                                        longest_shoot_mm: 400 }] })).to eq [
      "growing temperature 2026-05-03",
      "wax-check 04-22 04-25 05-04 passed",
      "first-look 05-03 05-10 05-31 done",
      "stock-shoots-later:1 05-25 06-01 06-15 passed",
      "aphids 05-28 06-07 07-17 late",
      "choose 06-08 06-22 07-20 late",
      "stock-shoots-later:2 06-16 06-23 07-07 passed",
      "shorten 06-27 07-04 08-19 late",
      "after-gale:2026-07-07 07-07 07-09 07-17 open",
      "stock-shoots-later:3 07-08 07-15 07-29 open",
      "slit-tape 06-19 07-19 11-06 open",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "thin-ring 12-15 02-13 03-15 ahead",
      "no-fruit 05-15 05-30 06-29 ahead"
    ]
  end

  it "a dry June" do
    expect(told({ today: "2026-07-01", weather: [[45, 9, 19, { rain_mm: 6 }], [27, 11, 24, { rain_mm: 0.2 }]],
                  observations: [TOOK] })).to eq [
      "growing temperature 2026-05-03",
      "wax-check 04-22 04-25 05-04 passed",
      "first-look 05-03 05-10 05-31 done",
      "stock-shoots-later:1 05-25 06-01 06-15 passed",
      "aphids 05-28 06-07 07-17 late",
      "shorten 06-12 06-19 08-04 late",
      "choose 06-08 06-22 07-20 late",
      "stock-shoots-later:2 06-16 06-23 07-07 late",
      "water:2026-06-24 06-24 06-27 07-15 late",
      "slit-tape 06-19 07-19 11-06 open",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "thin-ring 12-15 02-13 03-15 ahead",
      "no-fruit 05-15 05-30 06-29 ahead"
    ]
  end

  it "dead in May, with time for another" do
    expect(told({ today: "2026-05-31", weather: MILD,
                  observations: [{ on: "2026-05-30", buds: "dead", callus: "none", verdict: "failed" }] })).to eq [
      "failed temperature 2026-05-04",
      "regraft 05-30 06-09 07-05 open",
      "regraft-bud 08-01 08-22 09-07 ahead",
      "regraft-spring 11-15 02-13 04-14 ahead"
    ]
  end

  it "dead in August" do
    expect(told({ today: "2026-08-10", observations: [{ on: "2026-05-20", buds: "leafing", verdict: "took" },
                                                      { on: "2026-08-09", buds: "dead", verdict: "failed" }] })).to eq [
      "failed calendar 2026-05-11",
      "regraft-bud 08-09 08-30 09-07 open",
      "regraft-spring 11-15 02-13 04-14 ahead"
    ]
  end

  it "a cleft made in winter: nothing grows on it, and no tape bites, before shoots push" do
    days = lambda do |on, **facts|
      graft = self.class.graft(grafted_on: on, method: "cleft", species: "apple", wrap: "stretch-tape", **facts)
      tasks = reckon("care", { graft: graft, today: "2026-04-11", school: "waxed-rind" })[:tasks]
      tasks = reckon("care", { graft: graft, today: "2026-04-11", school: "film-wrap" })[:tasks] + tasks
      %w[stock-shoots slit-tape].map { |rule| tasks.find { |task| task[:rule] == rule }&.fetch(:opens_on) }
    end
    pushed = Date.new(2026, 4, 10)
    expect(days["2026-02-04"]).to eq [pushed + 14, pushed + 60]
    expect(days["2025-11-20"]).to eq [pushed + 14, pushed + 60]
    expect(days["2026-04-11"]).to eq [pushed + 15, pushed + 61]
    # By the place, where that is known: later in the north, and later for what opens late.
    place = { latitude_deg: 57, altitude_m: 0 }
    expect(days["2026-02-04", **place][1]).to be > pushed + 60
    expect(days["2026-02-04", **place, species: "walnut"][1]).to be > days["2026-02-04", **place][1]
    expect(days["2026-02-04", species: "citrus"][1]).to eq Date.new(2026, 2, 4) + 60
  end

  it "wakes, sets fruit and is made again later in the north and on a mountain, as bark opens there" do
    opens = lambda do |rule, latitude, height = 0, **of|
      graft = self.class.graft(**{ latitude_deg: latitude, altitude_m: height }.compact, **of[:graft])
      facts = { graft: graft, today: of[:today], school: "waxed-rind", observations: of.fetch(:seen, []) }
      reckon("care", facts)[:tasks].find { |task| task[:rule] == rule }&.fetch(:opens_on)
    end
    after = ->(day, *days) { days.map { |each| day + each } }
    bud = { graft: { grafted_on: "2026-08-20", method: "chip-bud", sticks: 1 }, today: "2027-02-01" }
    # Three days a degree from 50 degrees, where the calendar is of; a day for each 30 m.
    expect([[nil], [50], [60], [44], [50, 300]].map { |place| opens["bud-head", *place, **bud] })
      .to eq after[Date.new(2027, 3, 15), 0, 0, 30, -18, 10]
    fruit = { graft: { grafted_on: "2026-04-10" }, today: "2027-04-20", seen: [TOOK] }
    expect([50, 60, 44].map { |latitude| opens["no-fruit", latitude, **fruit] })
      .to eq after[Date.new(2027, 5, 15), 0, 30, -18]
    dead = { graft: { grafted_on: "2025-04-10" }, today: "2026-05-20", seen: [{ on: "2026-01-20", buds: "dead" }] }
    expect([50, 60].map { |latitude| opens["regraft", latitude, **dead] })
      .to eq [Date.new(2026, 4, 15), Date.new(2026, 5, 15)]
    # What keeps its leaves has no spring of its own.
    citrus = { **fruit, graft: { grafted_on: "2026-04-10", species: "citrus" } }
    expect([50, 60, 30].map { |latitude| opens["no-fruit", latitude, **citrus] }.uniq).to eq [Date.new(2027, 5, 15)]
  end

  it "the southern hemisphere" do
    expect(told({ graft: self.class.graft(grafted_on: "2026-10-08", southern: true, method: "whip-and-tongue",
                                          sticks: 1, wrap: "film", cover: "film", seal: "glue-tip"),
                                          school: "film-wrap", today: "2026-10-10" })).to eq [
      "knitting calendar 2026-10-29",
      "stock-shoots:1 10-24 10-28 11-07 ahead",
      "first-look 10-29 11-05 11-26 ahead",
      "free-buds 11-05 11-10 11-26 ahead",
      "open-if-still 11-12 11-17 12-12 ahead",
      "aphids 11-15 11-25 01-04 ahead",
      "choose 11-26 12-10 01-07 ahead",
      "label-look 03-15 04-29 06-13 ahead",
      "tally 03-15 04-29 05-29 ahead",
      "whitewash-winter 04-14 05-14 06-23 ahead",
      "brace-after-year 07-15 08-29 10-13 ahead"
    ]
  end

  it "a walnut by the covered school" do
    expect(told({ graft: { grafted_on: "2026-05-20", method: "inlay", species: "walnut", sticks: 1 },
                  school: "covered-inlay", today: "2026-05-22" })).to eq [
      "knitting calendar 2026-07-09",
      "stock-shoots:1 06-03 06-07 06-17 ahead",
      "first-look 07-09 07-16 08-06 ahead",
      "aphids 07-26 08-05 09-14 ahead",
      "uncover 08-03 08-07 08-17 ahead",
      "open-if-still 08-06 08-11 09-05 ahead",
      "brace 08-03 08-13 09-17 ahead",
      "slit-tape 07-19 08-18 12-06 ahead",
      "choose 08-06 08-20 09-17 ahead",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "no-fruit 05-15 05-30 06-29 ahead"
    ]
  end

  it "small wood by the film school" do
    expect(told({ graft: self.class.graft(method: "four-flap", sticks: 1), school: "film-wrap",
                  today: "2026-04-21" })).to eq [
      "knitting calendar 2026-05-11",
      "stock-shoots:1 05-04 05-08 05-18 ahead",
      "first-look 05-11 05-18 06-08 ahead",
      "free-buds 05-18 05-23 06-08 ahead",
      "open-if-still 05-25 05-30 06-24 ahead",
      "aphids 05-28 06-07 07-17 ahead",
      "choose 06-08 06-22 07-20 ahead",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "brace-after-year 01-14 02-28 04-14 ahead"
    ]
  end

  it "a shoot snaps above a live stick" do
    expect(told({ today: "2026-06-22", observations: [{ on: "2026-05-20", buds: "leafing", verdict: "took" },
                                                      { on: "2026-06-21", buds: "leafing", snapped: true,
                                                        longest_shoot_mm: 300 }] })).to eq [
      "growing calendar 2026-05-11",
      "wax-check 04-22 04-25 05-04 passed",
      "first-look 05-11 05-18 06-08 done",
      "stock-shoots-later:1 05-27 06-03 06-17 passed",
      "aphids 05-30 06-09 07-19 late",
      "cut-to-bud:2026-06-21 06-21 06-23 07-05 open",
      "choose 06-10 06-24 07-22 open",
      "stock-shoots-later:2 06-18 06-25 07-09 open",
      "shorten 06-28 07-05 08-20 ahead",
      "slit-tape 06-19 07-19 11-06 open",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "thin-ring 12-15 02-13 03-15 ahead",
      "no-fruit 05-15 05-30 06-29 ahead"
    ]
  end

  it "has something due each summer until it is a limb, and one look a year from then on" do
    graft = self.class.graft(brace: true, closed_on: "2028-10-20", scaffold_on: "2029-10-18")
    seen = [{ on: "2026-05-20", buds: "leafing", verdict: "took" }]
    open = lambda do |today, **facts|
      told({ graft: graft, today: today, observations: seen, **facts })
        .filter_map { |line| line.split.first if line.match?(/ (open|late)$/) }
    end
    expect(open["2027-06-10"]).to contain_exactly("no-fruit", "year-stock-shoots", "year-pests", "year-ties",
                                                  "year-brace")
    expect(open["2028-06-10"]).to contain_exactly("year-stock-shoots:2028", "year-pests:2028", "year-ties:2028",
                                                  "year-brace:2028")
    expect(open["2028-11-10"]).to contain_exactly("tally:2028", "brace-off")
    expect(open["2029-06-10"]).to contain_exactly("year-stock-shoots:2029", "year-pests:2029", "year-ties:2029")
    expect(open["2029-10-01"]).to contain_exactly("tally:2029")
    expect(open["2030-06-10"]).to eq []
    expect(open["2030-07-10"]).to eq ["yearly-look"]
    expect(open["2034-07-10"]).to eq ["yearly-look:2034"]
    limb = ->(today) { reckon("care", { graft: graft, today: today, observations: seen })[:limb] }
    expect(%w[2029-10-17 2029-10-18].map(&limb)).to eq [false, true]
    looked = { done: [{ key: "yearly-look:2034", on: "2034-07-02" }] }
    expect(open["2034-07-10", **looked]).to eq []
  end

  it "asks whether it lives for two springs, where nobody said that it took" do
    open = lambda do |today, **facts|
      told({ today: today, **facts }).filter_map { |line| line.split.first if line.match?(/ (open|late)$/) }
    end
    expect([open["2027-04-30"], open["2027-05-01"], open["2027-07-15"], open["2027-07-16"]])
      .to eq [[], ["unjudged"], ["unjudged"], []]
    expect([open["2028-05-20"], open["2029-05-20"]]).to eq [["unjudged:2028"], []]
    looked = [{ on: "2027-05-18", buds: "asleep", verdict: "wait" }]
    expect(open["2027-05-20", observations: looked]).to eq []
    expect(open["2028-05-20", observations: looked]).to eq ["unjudged:2028"]
    lives = [{ on: "2027-05-18", buds: "leafing", verdict: "took" }]
    expect(open["2028-05-20", observations: lives]).not_to include(/unjudged/)
    dead = [{ on: "2027-05-18", buds: "dead", verdict: "failed" }]
    expect(open["2028-05-20", observations: dead]).to eq ["again-this-spring"]
  end

  it "takes an autumn's count for that autumn alone" do
    counts = [{ on: "2026-10-10", alive: true }, { on: "2028-10-12", alive: true }]
    tallies = told({ today: "2028-10-20", counts: counts, observations: [TOOK] }).grep(/^tally/)
    expect(tallies).to eq ["tally 09-15 10-30 11-29 done", "tally:2028 09-15 10-30 11-29 done"]
    first = lambda do |on|
      told({ today: "2026-10-20", counts: [{ on: on, alive: true }], observations: [TOOK] }).grep(/^tally/)
    end
    expect([first["2026-09-14"], first["2026-09-15"]])
      .to eq [["tally 09-15 10-30 11-29 open"], ["tally 09-15 10-30 11-29 done"]]
  end

  it "fruit in its second summer" do
    expect(told({ today: "2027-06-02", school: "covered-inlay",
                  observations: [{ on: "2026-05-20", buds: "leafing", verdict: "took" },
                                 { on: "2027-06-01", fruit: true, buds: "leafing" }] })).to eq [
      "growing calendar 2026-05-11",
      "stock-shoots:1 05-04 05-08 05-18 passed",
      "first-look 05-11 05-18 06-08 done",
      "stock-shoots:2 05-19 05-23 06-02 passed",
      "stock-shoots:3 06-03 06-07 06-17 passed",
      "aphids 05-30 06-09 07-19 passed",
      "uncover 06-07 06-11 06-21 passed",
      "brace 06-07 06-17 07-22 passed",
      "stock-shoots:4 06-18 06-22 07-02 passed",
      "choose 06-10 06-24 07-22 passed",
      "stock-shoots:5 07-03 07-07 07-17 passed",
      "slit-tape 06-19 07-19 11-06 passed",
      "stock-shoots:6 07-18 07-22 08-01 passed",
      "stock-shoots:7 08-02 08-06 08-16 passed",
      "stock-shoots:8 08-17 08-21 08-31 passed",
      "stock-shoots:9 09-01 09-05 09-15 passed",
      "label-look 09-15 10-30 12-14 passed",
      "tally 09-15 10-30 11-29 passed",
      "whitewash-winter 10-15 11-14 12-24 passed",
      "thin-ring 12-15 02-13 03-15 passed",
      "year-one-shoot 12-15 02-13 03-15 passed",
      "year-feed 02-23 03-30 05-04 passed",
      "no-fruit 05-15 05-30 06-29 late",
      "year-pests 05-15 06-04 07-04 open",
      "year-stock-shoots 05-15 06-05 07-14 open",
      "year-ties 05-30 06-29 08-13 open"
    ]
  end

  # The tasks of a rule on some days of one that took.
  def asked(rule, days, weather:, observations: [TOOK], done: [], graft: self.class.graft)
    days.map do |today|
      reckon("care", { graft: graft, school: "waxed-rind", observations: observations, done: done, today: today,
                       weather: days(weather) })[:tasks].select { |task| task[:rule] == rule }
        .map { |task| [task[:key].split(":").last, task[:status]] }
    end
  end

  it "frost asks for a look while growth is soft, and for none of a sleeping one" do
    # On 4 November, on the 6th, on 9 April, on the 10th.
    frosts = [[198, 9, 19], [1, -3, 8], [1, 2, 8], [1, -3, 8], [153, 1, 8], [1, -6, 8], [1, -3, 8], [20, 3, 12]]
    expect(asked("after-frost", %w[2026-11-05 2026-11-07 2026-11-20 2027-04-09 2027-04-12], weather: frosts))
      .to eq [[%w[2026-11-04 open]], [%w[2026-11-04 open]], [], [], [%w[2027-04-10 open]]]
    # Seen to leaf sooner, or a kind that keeps its leaves.
    early = [TOOK, { on: "2027-04-02", buds: "leafing" }]
    expect(asked("after-frost", %w[2027-04-10], weather: frosts.first(6), observations: early))
      .to eq [[%w[2027-04-09 open]]]
    # Further north they push later: at 64 degrees not before the middle of May.
    late = [[395, 9, 19], [1, -3, 8], [20, 9, 19]]
    asked_at = lambda do |latitude|
      asked("after-frost", %w[2027-05-21], weather: late, graft: self.class.graft(latitude_deg: latitude))[0]
    end
    expect([asked_at[44], asked_at[72]]).to eq [[%w[2027-05-20 open]], []]
    expect(asked("after-frost", %w[2026-11-07], weather: frosts, graft: self.class.graft(species: "citrus")))
      .to eq [[%w[2026-11-06 open]]]
  end

  it "leaves what is set just before a winter until it has grown" do
    told = lambda do |day|
      facts = { graft: self.class.graft(grafted_on: day), today: "2026-12-20", school: "waxed-rind",
                observations: [{ on: "2026-12-16", verdict: "took" }] }
      reckon("care", facts)[:tasks].select { |task| task[:rule] == "thin-ring" }.map { |task| task[:opens_on].iso8601 }
    end
    expect([told["2026-10-16"], told["2026-10-17"]]).to eq [%w[2026-12-15], %w[2027-12-15]]
  end

  it "a dry spell asks for water again each fortnight while it lasts and leaf is on" do
    dry = [[71, 9, 19, { rain_mm: 3 }], [60, 11, 24, { rain_mm: 0 }]]
    expect(asked("water", %w[2026-07-16 2026-07-17 2026-07-30 2026-07-31 2026-08-13 2026-08-14], weather: dry))
      .to eq [[], [%w[2026-07-17 open]], [%w[2026-07-17 late]], [%w[2026-07-31 open]], [%w[2026-07-31 late]],
              [%w[2026-08-14 open]]]
    watered = [{ key: "water:2026-07-17", on: "2026-07-21", what: "done" }]
    expect(asked("water", %w[2026-07-22 2026-08-05], weather: dry, done: watered))
      .to eq [[%w[2026-07-17 done]], [%w[2026-07-31 late]]]
    winter = [[200, 9, 19, { rain_mm: 3 }], [140, 1, 8, { rain_mm: 0 }]]
    expect(asked("water", %w[2026-12-20 2027-03-14 2027-03-15], weather: winter).map(&:size)).to eq [0, 0, 1]
  end

  it "frost in May" do
    expect(told({ today: "2026-05-23", weather: [[31, 9, 19], [1, -3, 10], [2, 5, 14]], observations: [TOOK] })).to eq [
      "growing temperature 2026-05-03",
      "wax-check 04-22 04-25 05-04 passed",
      "first-look 05-03 05-10 05-31 done",
      "after-frost:2026-05-21 05-22 05-26 06-04 open",
      "stock-shoots-later:1 05-25 06-01 06-15 ahead",
      "aphids 05-28 06-07 07-17 ahead",
      "shorten 06-12 06-19 08-04 ahead",
      "choose 06-08 06-22 07-20 ahead",
      "slit-tape 06-19 07-19 11-06 ahead",
      "label-look 09-15 10-30 12-14 ahead",
      "tally 09-15 10-30 11-29 ahead",
      "whitewash-winter 10-15 11-14 12-24 ahead",
      "thin-ring 12-15 02-13 03-15 ahead",
      "no-fruit 05-15 05-30 06-29 ahead"
    ]
  end
end
