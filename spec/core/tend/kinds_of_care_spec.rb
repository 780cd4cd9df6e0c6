# frozen_string_literal: true

# A bud is tied and not waxed, bagged or taped for the summer; an approach keeps both its roots, and its cord is slit as
# the stock above is cut.
RSpec.describe "The care of a bud and of an approach graft", :core do
  def keys(method, species, school, from, observations, done: [])
    (0..400).step(20).flat_map do |days|
      today = Date.iso8601(from) + days
      seen = observations.select { |each| each[:on] <= today.iso8601 }
      reckon("care", { graft: { grafted_on: from, method: method, species: species, sticks: 1, wrap: "stretch-tape",
                                seal: "wax", cover: "foil-and-bag" },
                       observations: seen, school: school, today: today.iso8601,
                       done: done.select { |each| each[:on] <= today.iso8601 } })[:tasks].map { |task| task[:rule] }
    end.uniq
  end

  sleeps = [{ on: "2026-08-24", leaf_stalk: "falls" }, { on: "2027-05-02", buds: "leafing", longest_shoot_mm: 90 }]
  knits = [{ on: "2026-06-01", buds: "leafing", callus: "full", verdict: "took", longest_shoot_mm: 90 }]

  Vestry::Core::Rulebook.shipped.school_names.each do |school|
    %w[shield-bud chip-bud].each do |method|
      it "of a #{method} by #{school} says nothing of wax, bag or summer tape" do
        %w[apple citrus].each do |species|
          told = keys(method, species, school, "2026-08-05", sleeps)
          expect(told & %w[wax-check slit-tape uncover let-light-in uncover-autumn shade evergreen-shade stock-shoots
                           stock-shoots-later first-look]).to eq []
          expect(told).to include("bud-look", "bud-tie", "bud-head", "stock-shoots-beside")
        end
      end
    end

    it "of a bud that was called alive in its first autumn by #{school} lets it sleep until spring" do
      bud = { grafted_on: "2026-08-05", method: "chip-bud", species: "apple", sticks: 1 }
      said = [{ on: "2026-08-24", leaf_stalk: "falls", verdict: "took" }]
      asked = lambda do |today, more = [], counts = []|
        seen = [*said, *more].select { |each| each[:on] <= today }
        answer = reckon("care", { graft: bud, observations: seen, counts: counts, school: school, today: today })
        [answer[:state], answer[:tasks].select { |task| %w[open late].include?(task[:status]) }
          .map { |task| task[:rule] } & %w[stock-shoots-beside shorten bud-growth bud-head bud-shoot]]
      end
      counted = [{ on: "2026-10-10", alive: true }]
      expect([asked["2026-09-10"], asked["2026-10-20", [], counted], asked["2027-04-20", [], counted]])
        .to eq [["sleeping", []], ["sleeping", []], ["sleeping", %w[bud-head bud-growth]]]
      grows = [{ on: "2027-05-02", buds: "leafing", longest_shoot_mm: 90 }]
      expect(asked["2027-05-18", grows]).to eq ["growing", %w[bud-shoot stock-shoots-beside]]
      # Nobody came in spring: what was said of it stands.
      expect(asked["2027-07-20"].first).to eq "growing"
    end

    it "of a chip of stored wood by #{school} heads its stock once it has joined, in the spring in which it was set" do
      asked = lambda do |made, today, seen = [], method: "chip-bud"|
        bud = { grafted_on: made, method: method, species: "apple", sticks: 1 }
        answer = reckon("care", { graft: bud, observations: seen, school: school, today: today })
        head = answer[:tasks].find { |task| task[:rule] == "bud-head" }
        [answer[:state], answer[:waking_on].to_s, head && [head[:opens_on].to_s, head[:status]]]
      end
      callus = [{ on: "2026-05-28", callus: "full" }]
      # Six weeks after the twentieth of April, and before the fifth of July.
      expect(asked["2026-04-20", "2026-06-03", callus]).to eq ["sleeping", "2026-06-01", %w[2026-06-01 open]]
      grows = [*callus, { on: "2026-06-20", buds: "leafing", longest_shoot_mm: 60 }]
      expect(asked["2026-04-20", "2026-06-25", grows].first).to eq "growing"
      # What would join too late to harden sleeps, and so does a shield of this summer's growth.
      expect(asked["2026-05-24", "2026-07-10"][1]).to eq "2026-07-05"
      late = asked["2026-05-25", "2026-07-10"]
      expect([late[1], asked["2026-04-20", "2026-06-03", callus, method: "shield-bud"][1]].map { |day| day[0, 4] })
        .to eq %w[2027 2027]
    end

    it "of an approach graft by #{school} slits its cord once, and bags no plant that keeps its leaves and roots" do
      told = keys("approach", "citrus", school, "2026-05-01", knits,
                  done: [{ key: "approach-off", on: "2026-07-01" }])
      expect(told & %w[slit-tape uncover let-light-in uncover-autumn shade evergreen-shade evergreen-light]).to eq []
      expect(told).to include("donor-water", "approach-head", "wax-check")
    end

    it "of an approach graft by #{school} lets the stock's shoots be until its donor is off" do
      rubbed = lambda do |done|
        keys("approach", "apple", school, "2026-05-01", knits, done: done).grep(/\Astock-shoots/)
      end
      expect([rubbed[[]], rubbed[[{ key: "approach-off", on: "2026-07-01" }]]]).to eq [[], %w[stock-shoots-parted]]
    end
  end

  it "asks after a gale and in heat where they harm: no sleeping bud for its seat, no bark under its head for lime" do
    weather = Array.new(60) { |i| { date: (Date.new(2026, 8, 1) + i).iso8601, min_c: 12, max_c: 32, gust_ms: 20 } }
    told = lambda do |method, seen, **graft|
      reckon("care", { graft: { grafted_on: "2026-08-01", method: method, species: "apple", **graft }, weather: weather,
                       observations: [{ on: "2026-08-20", **seen }], today: "2026-09-20" })[:tasks]
        .map { |task| task[:rule] } & %w[after-gale whitewash]
    end
    expect([told["chip-bud", { leaf_stalk: "falls" }], told["side-bark", { verdict: "took" }, headed: false],
            told["rind", { verdict: "took" }]]).to eq [[], %w[after-gale], %w[whitewash after-gale]]
  end

  it "rubs off beside a bud while its first summer lasts, and not through a winter" do
    rounds = lambda do |made, seen, days|
      days.map do |today|
        reckon("care", { graft: { grafted_on: made, method: "chip-bud", species: "apple", sticks: 1 },
                         observations: [seen], school: "waxed-rind", today: today })[:tasks]
          .any? { |task| task[:rule] == "stock-shoots-beside" && %w[open late].include?(task[:status]) }
      end
    end
    spring = { on: "2027-05-02", buds: "leafing", longest_shoot_mm: 90 }
    expect(rounds["2026-08-05", spring, %w[2027-05-18 2027-08-20 2027-12-01]]).to eq [true, true, false]
    # One that moves in October has no summer left.
    autumn = { on: "2026-10-05", buds: "leafing", longest_shoot_mm: 60 }
    expect(rounds["2026-08-05", autumn, %w[2026-10-20 2027-01-10 2027-03-10]]).to eq [false, false, false]
  end

  it "holds no longer than until the day of what was written down of a later one" do
    until_day = lambda do |**more|
      reckon("care", { graft: { grafted_on: "2026-05-02", method: "rind", species: "apple", sticks: 1 },
                       school: "waxed-rind", today: "2026-06-10", observations: [], **more })[:valid_until]
    end
    seen = { on: "2026-06-12", buds: "leafing", callus: "full" }
    expect([until_day[observations: [seen]], until_day[counts: [{ on: "2026-06-12", alive: true }]],
            until_day[lost_on: "2026-06-12"], until_day[].>(Date.new(2026, 6, 11))])
      .to eq [*[Date.new(2026, 6, 11)] * 3, true]
  end

  it "of a stub is as it was" do
    told = keys("rind", "citrus", "covered-inlay", "2026-05-01", knits)
    expect(told).to include("slit-tape", "evergreen-shade", "evergreen-light", "uncover", "stock-shoots")
    expect(told).not_to include("stock-shoots-beside")
  end
end
