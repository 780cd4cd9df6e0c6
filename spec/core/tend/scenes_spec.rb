# frozen_string_literal: true

# What a grafter asks at the tree, each with the days and figures of one case.
RSpec.describe "At the tree", :core do
  GRAFTED = Date.new(2026, 4, 20)

  # Days of 8 to 18 °C from the grafting day on: an apple knits on 4 May.
  def weather(days = 130) = Array.new(days) { |i| { date: (GRAFTED + i).iso8601, min_c: 8, max_c: 18, rain_mm: 3 } }

  def care_on(day, visits = [], **graft)
    reckon("care", graft: { grafted_on: GRAFTED.iso8601, method: "rind", species: "apple", **graft },
                   observations: visits.map { |after, seen| { on: (GRAFTED + after).iso8601, **seen } },
                   weather: weather(day + 1), school: "waxed-rind", today: (GRAFTED + day).iso8601)
  end

  def open(answer) = answer[:tasks].select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:rule] }
  def days(answer, rule) = answer[:tasks].find { |task| task[:rule] == rule }&.values_at(:opens_on, :due_on)

  it "leaves at six days, and at 27 without callus, are still on probation" do
    visits = { 6 => { buds: "leafing", callus: "none" }, 27 => { buds: "leafing", callus: "none" } }
    answer = care_on(28, visits)
    expect(answer[:state]).to eq "false-start"
    expect(answer[:tasks].map { |task| task.values_at(:rule, :status) }).to include %w[false-start late]
    expect(open(answer)).not_to include("choose", "aphids")
    expect(care_on(34, visits.merge(33 => { buds: "leafing", callus: "some" }))[:state]).to eq "growing"
    hand = { buds: "leafing", longest_shoot_mm: 160 }
    expect([care_on(34, visits.merge(33 => hand)), care_on(43, visits.merge(33 => hand, 42 => hand)),
            care_on(44, visits.merge(33 => hand, 43 => hand))].map { |each| each[:state] })
      .to eq %w[false-start false-start growing]
  end

  it "callus without buds on day 35: look each fortnight, a bud for insurance, and nothing is opened again" do
    visits = { 35 => { buds: "asleep", callus: "some" } }
    answer = care_on(36, visits)
    expect(answer[:state]).to eq "callused"
    expect(answer[:tasks].map { |task| task[:rule] }).not_to include "open-if-still"
    expect(days(answer, "callus-look")).to eq [GRAFTED + 49, GRAFTED + 51]
    expect(days(answer, "blind-buds").last).to eq GRAFTED + 56
    expect(days(answer, "insurance-bud").last).to eq GRAFTED + 70
    expect(open(care_on(60, visits))).to include "blind-buds"
    expect(care_on(90, visits.merge(80 => { buds: "leafing", callus: "full" }))[:state]).to eq "growing"
  end

  it "buds that swell in time: let be for a week, then looked at whether they grow on, and nothing is opened" do
    visits = { 16 => { buds: "swelling", callus: "some" } }
    answer = care_on(17, visits)
    expect(answer.slice(:state, :moving)).to eq(state: "waiting", moving: true)
    expect(days(answer, "moving-look")).to eq [GRAFTED + 23, GRAFTED + 25]
    late = care_on(45, visits)
    expect(late[:state]).to eq "late"
    expect(open(late)).to include("moving-look")
    expect(late[:tasks].map { |task| task[:rule] }).not_to include "open-if-still"
    # Seen swelling again it is looked at again; seen to have stopped, opened; in leaf, it has taken.
    looked = ->(seen) { care_on(46, visits.merge(45 => seen)) }
    expect(days(looked[{ buds: "swelling" }], "moving-look")).to eq [GRAFTED + 52, GRAFTED + 54]
    stopped = looked[{ buds: "asleep" }]
    expect(stopped[:moving]).to be false
    expect(open(stopped) & %w[moving-look]).to eq []
    leaves = looked[{ buds: "leafing" }]
    expect([leaves[:state], leaves[:tasks].any? { |task| task[:rule] == "moving-look" }]).to eq ["growing", false]
  end

  # What is asked on a day with what was done by then, each by its key.
  def asked(day, visits, done = {}, school: "waxed-rind", **graft)
    seen = visits.select { |after,| after <= day }.map { |after, told| { on: (GRAFTED + after).iso8601, **told } }
    reckon("care", graft: { grafted_on: GRAFTED.iso8601, method: "rind", species: "apple", **graft },
                   observations: seen, weather: weather(day + 1), school: school,
                   done: done.map { |key, after| { key: key, on: (GRAFTED + after).iso8601 } },
                   today: (GRAFTED + day).iso8601)[:tasks]
      .select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:rule] }
  end

  it "of a dead stick nothing is mended, whatever was mended of it before" do
    seal = "reseal:#{GRAFTED + 10}"
    dead = { 10 => { seal: "cracked", buds: "asleep" }, 45 => { seal: "cracked", buds: "dead", verdict: "failed" } }
    expect([asked(11, dead), asked(46, dead, { seal => 11 })]).to match [include("reseal"), include("regraft")]
    expect(asked(46, dead, { seal => 11 })).not_to include("reseal")
  end

  it "what holds it is bound again until it was slit, or grows; what sleeps is left bound" do
    loose = ->(seen = {}) { { 30 => { wrap: "loose", **seen } } }
    expect([asked(31, loose[]), asked(31, loose[], { "slit-now:#{GRAFTED + 20}" => 20 }),
            asked(31, loose[{ verdict: "took", buds: "leafing" }])].map { |rules| rules.include?("rewrap") })
      .to eq [true, false, false]
    tape = { wrap: "stretch-tape" }
    callus = { 35 => { callus: "some", buds: "asleep" } }
    expect([asked(70, {}, **tape), asked(70, callus, **tape)].map { |rules| rules.include?("slit-tape") })
      .to eq [true, false]
  end

  it "the shoots into which a sleeping stick's insurance is budded are not rubbed off" do
    callus = { 35 => { callus: "some", buds: "asleep" } }
    rubbed = ->(day, seen) { asked(day, seen, school: "covered-inlay") & %w[stock-shoots insurance-bud] }
    expect([rubbed[70, {}], rubbed[70, callus]]).to eq [%w[stock-shoots], %w[insurance-bud]]
  end

  it "a bud is not untied before it can have knit" do
    tied = lambda do |days, celsius|
      set = Date.new(2026, 8, 20)
      since = Array.new(days + 1) { |i| { date: (set + i).iso8601, min_c: celsius - 4, max_c: celsius + 4 } }
      reckon("care", graft: { grafted_on: set.iso8601, method: "chip-bud", species: "apple" }, weather: since,
                     today: (set + days).iso8601)[:tasks].find { |task| task[:rule] == "bud-tie" }&.fetch(:status)
    end
    expect([tied[24, 18], tied[24, 6]]).to eq ["open", nil]
  end

  it "one that was seen to take before its first look is not looked at for the first time" do
    took = { 13 => { verdict: "took", buds: "leafing", callus: "full", longest_shoot_mm: 60 } }
    expect([asked(16, {}), asked(16, took)].map { |rules| rules.include?("first-look") }).to eq [true, false]
  end

  it "a gale before the leaves asks for a look too" do
    windy = weather(20).each { |day| day[:gust_ms] = day[:date] == "2026-05-08" ? 22 : 4 }
    answer = reckon("care", graft: { grafted_on: "2026-04-20", method: "rind", species: "apple" }, weather: windy,
                            school: "waxed-rind", today: "2026-05-09")
    expect(open(answer)).to include "after-gale"
  end

  it "500 mm of shoot in the seventh week: about 200 is safe" do
    safe = reckon("wind", weeks: 7, length_mm: 500, gust_ms: 15, hold: 0.6)[:safe_length_mm]
    expect(safe).to be_between(190, 210)
  end

  it "a graft found dead is made again to its last day, then its regrowth is budded to that one's, then spring" do
    days = { regraft_until: "2026-06-22", bud_until: "2026-09-07" }
    on = lambda do |day|
      died = Date.iso8601(day)
      answer = reckon("care", graft: { grafted_on: "2026-04-20", method: "rind", species: "apple", **days },
                              observations: [{ on: day, buds: "dead", verdict: "failed" }], today: died.iso8601)
      answer[:tasks].map { |task| [task[:rule], task[:opens_on].strftime("%m-%d"), task[:closes_on].strftime("%m-%d")] }
    end
    expect(on["2026-06-22"].first(2)).to eq [["regraft", "06-22", "06-22"], ["regraft-bud", "08-01", "09-07"]]
    # While there is time for another graft the buds wait for the day after its last.
    late = { regraft_until: "2026-08-15", bud_until: "2026-09-07" }
    answer = reckon("care", graft: { grafted_on: "2026-04-20", method: "rind", species: "apple", **late },
                            observations: [{ on: "2026-06-22", verdict: "failed" }], today: "2026-06-22")
    expect(days(answer, "regraft-bud").first).to eq Date.new(2026, 8, 16)
    expect(on["2026-08-20"].map(&:first)).to eq %w[regraft-bud regraft-spring]
    expect(on["2026-08-20"].first).to eq ["regraft-bud", "08-20", "09-07"]
    expect(on["2026-09-10"].map(&:first)).to eq ["regraft-spring"]
  end

  it "a bud found dead on 10 September waits for spring" do
    answer = reckon("care", graft: { grafted_on: "2026-08-20", method: "chip-bud", species: "apple" },
                            observations: [{ on: "2026-09-10", buds: "dead", leaf_stalk: "clings" }],
                            today: "2026-09-10")
    expect([answer[:state], answer[:tasks].map { |task| task[:rule] }]).to eq ["failed", ["bud-spring"]]
  end

  it "a bud found dead is set again in the season in which that is seen" do
    on = lambda do |day|
      answer = reckon("care", graft: { grafted_on: "2026-08-05", method: "chip-bud", species: "apple" },
                              observations: [{ on: day, verdict: "failed" }], today: day)
      answer[:tasks].select { |task| task[:rule] == "rebud" }
                    .map { |task| task.values_at(:opens_on, :closes_on).map(&:iso8601) }
    end
    expect(on["2026-08-25"]).to eq [%w[2026-08-25 2026-09-07]]
    expect(on["2026-09-08"]).to eq []
    expect(on["2027-05-10"]).to eq [%w[2027-08-01 2027-09-07]]
  end

  it "a dead side graft has another set beside it, and a dead plant alongside is joined again" do
    rules = lambda do |method|
      reckon("care", graft: { grafted_on: "2026-04-28", method: method, species: "apple", headed: false },
                     observations: [{ on: "2026-05-28", verdict: "failed" }], today: "2026-05-28")[:tasks]
        .map { |task| task[:rule] }
    end
    expect(rules["side-bark"]).to eq %w[beside beside-spring]
    expect(rules["approach"]).to eq %w[rejoin beside-spring]
    expect(rules["rind"]).to eq %w[regraft regraft-bud regraft-spring]
  end

  # The rules that ask for another in the place of one that died, by what is asked on a day.
  AGAIN = %w[regraft beside rejoin rebud regraft-bud regraft-spring beside-spring bud-spring again-this-spring
             bud-this-summer stub-spring].freeze

  def asked_again(made, died, day, **facts)
    answer = reckon("care", graft: { grafted_on: made, species: "apple", headed: false, **facts },
                            observations: [{ on: died, verdict: "failed" }], today: day)
    open(answer) & AGAIN
  end

  it "one that nobody made again is asked for two years in each season's own way, until its limb is decided" do
    years = { "2026-05-28" => %w[regraft], "2026-07-14" => [], "2026-08-10" => %w[regraft-bud], "2026-09-08" => [],
              "2026-11-14" => [], "2026-11-15" => %w[regraft-spring], "2027-04-14" => %w[regraft-spring],
              "2027-04-15" => %w[again-this-spring], "2027-07-05" => %w[again-this-spring], "2027-07-06" => [],
              "2027-08-01" => %w[bud-this-summer], "2027-09-07" => %w[bud-this-summer], "2027-09-08" => [],
              "2027-11-15" => %w[regraft-spring], "2028-05-01" => %w[again-this-spring],
              "2028-08-20" => %w[bud-this-summer], "2028-11-15" => [], "2029-05-01" => [] }
    told = years.keys.to_h do |day|
      [day, asked_again("2026-04-28", "2026-05-28", day, method: "rind", headed: true)]
    end
    expect(told).to eq years
    decided = years.keys.flat_map do |day|
      asked_again("2026-04-28", "2026-05-28", day, method: "rind", headed: true, planned_again: true)
    end
    expect(decided).to eq []
  end

  it "one whose stub is too near the fork to be cut again is never asked to be, but to be decided, or budded" do
    years = { "2026-05-28" => [], "2026-08-10" => %w[regraft-bud], "2026-11-15" => %w[stub-spring],
              "2027-04-15" => [], "2027-08-01" => %w[bud-this-summer], "2027-11-15" => %w[stub-spring] }
    told = years.keys.to_h do |day|
      [day, asked_again("2026-04-28", "2026-05-28", day, method: "rind", headed: true, no_room: true)]
    end
    expect(told).to eq years
  end

  it "one of an earlier season that dies is planned while it sleeps, made in spring, and not before" do
    told = ->(died, day) { asked_again("2024-04-28", died, day, method: "rind", headed: true) }
    expect(%w[2027-02-15 2027-04-14 2027-04-15 2027-06-01].map { |day| told["2027-02-15", day] })
      .to eq [%w[regraft-spring], %w[regraft-spring], %w[regraft], %w[regraft]]
    expect(%w[2027-05-16 2027-06-30 2027-08-10 2027-12-01].map { |day| told["2027-05-16", day] })
      .to eq [%w[regraft], %w[regraft], %w[regraft-bud], %w[regraft-spring]]
    # Nobody knew of it in November: it has its time from the day on which it was seen.
    late = reckon("care", graft: { grafted_on: "2024-04-28", method: "rind", species: "apple" },
                          observations: [{ on: "2027-02-15", verdict: "failed" }], today: "2027-02-15")
    expect(late[:tasks].find { |task| task[:rule] == "regraft-spring" }.values_at(:opens_on, :due_on, :closes_on))
      .to eq(%w[2027-02-15 2027-04-14 2027-04-14].map { |day| Date.iso8601(day) })
  end

  it "a dead bud is set again each summer, and what is beside or alongside planned each winter and spring" do
    bud = ->(day) { asked_again("2026-08-05", "2026-08-25", day, method: "shield-bud") }
    expect(%w[2026-08-25 2026-09-07 2026-09-08 2026-12-01 2027-08-01 2027-09-08 2028-08-01].map { |day| bud[day] })
      .to eq [%w[rebud], %w[rebud], [], %w[bud-spring], %w[bud-this-summer], [], %w[bud-this-summer]]
    side = ->(day) { asked_again("2026-04-28", "2026-07-28", day, method: "side-bark") }
    expect(%w[2026-07-28 2026-12-01 2027-05-01 2027-08-01 2027-12-01].map { |day| side[day] })
      .to eq [[], %w[beside-spring], %w[again-this-spring], [], %w[beside-spring]]
  end

  it "what is once done or waived is not asked again: another year, or the head that is off" do
    side = lambda do |day, **more|
      graft = { grafted_on: "2026-04-28", method: "side-bark", species: "apple", headed: false,
                **more.slice(:head_off) }
      open(reckon("care", graft: graft, observations: [{ on: "2027-05-20", buds: "leafing", verdict: "took" }],
                          today: day, **more.slice(:done))).grep(/side-off/)
    end
    # It took in its second summer: its first winter is over.
    expect([side["2027-12-20"], side["2028-12-20"], side["2029-12-20"]]).to eq [%w[side-off], %w[side-off], []]
    expect(side["2027-12-20", head_off: true]).to eq []
    waived = [{ key: "side-off:2028", on: "2027-12-21", what: "waived" }]
    expect(side["2028-12-20", done: waived]).to eq []
  end

  it "a plant alongside lives from the stock when it goes on growing without its donor, which is watered no more" do
    told = lambda do |day, *more, off: true|
      done = off ? [{ key: "approach-off", on: "2026-07-09" }] : []
      reckon("care", graft: { grafted_on: "2026-05-10", method: "approach", species: "apple", headed: false },
                     observations: [{ on: "2026-06-20", callus: "full", buds: "leafing" }, *more], done: done,
                     today: day)
    end
    watered = [told["2026-07-20", off: false], told["2026-07-20"]].map do |each|
      each[:tasks].any? { |task| task[:rule] == "donor-water" }
    end
    expect(watered).to eq [true, false]
    expect(%w[2026-07-18 2026-07-19].map { |day| open(told[day]).include?("parted-look") }).to eq [false, true]
    fresh = ->(on) { told["2026-08-01", { on: on, buds: "leafing" }][:state] }
    expect([fresh["2026-07-18"], fresh["2026-07-19"]]).to eq %w[callused growing]
    expect(told["2026-08-01", { on: "2026-07-30", buds: "leafing" }, off: false][:state]).to eq "callused"
  end

  it "a plant alongside that shows no callus in time is looked at once more" do
    late = lambda do |day, seen|
      open(reckon("care", graft: { grafted_on: "2026-05-10", method: "approach", species: "apple", headed: false },
                          observations: [seen], today: day)) & %w[approach-look approach-look-again]
    end
    expect(late["2026-06-20", { on: "2026-06-01", callus: "none" }]).to eq %w[approach-look-again]
    expect(late["2026-06-20", { on: "2026-06-20", callus: "none" }]).to eq []
    expect(late["2026-06-20", { on: "2026-06-01", callus: "some" }]).to eq []
  end

  it "is given light by leaves: one that was seen asleep is left closed, and a second summer asks for none" do
    light = lambda do |day, visits|
      open(care_on(day, visits, cover: "foil-and-bag")) & %w[let-light-in uncover first-look]
    end
    # Nobody has seen a leaf yet: that is looked for first.
    expect([light[22, {}], light[26, { 24 => { buds: "leafing" } }]]).to eq [%w[first-look], %w[let-light-in]]
    expect(light[22, { 21 => { buds: "asleep" } }]).to eq []
    expect(light[30, { 21 => { buds: "asleep", callus: "some" } }]).to eq []
    expect(light[45, { 24 => { buds: "leafing" }, 44 => { longest_shoot_mm: 160 } }])
      .to eq %w[uncover]
    expect(light[400, { 21 => { buds: "asleep", callus: "some" }, 395 => { buds: "leafing" } }]).to eq []
  end

  it "fruit is asked off once: as the second spring asks, or where that is done, as it was seen" do
    fruit = lambda do |done|
      open(reckon("care", graft: { grafted_on: "2026-04-20", method: "rind", species: "apple" }, school: "waxed-rind",
                          observations: [{ on: "2026-05-20", verdict: "took" }, { on: "2027-06-01", fruit: true }],
                          done: done, today: "2027-06-02")) & %w[no-fruit fruit-off]
    end
    done = %w[2027-05-20 2027-05-31 2027-06-01].map { |on| fruit[[{ key: "no-fruit", on: on }]] }
    expect([fruit[[]], *done]).to eq [%w[no-fruit], %w[fruit-off], %w[fruit-off], []]
  end

  it "asks once for one thing: tape that bites, stock shoots that were seen, a shoot that grew on" do
    told = lambda do |day, visits, done = []|
      open(reckon("care", graft: { grafted_on: "2026-04-20", method: "rind", species: "apple", wrap: "stretch-tape" },
                          school: "waxed-rind", today: day, done: done,
                          observations: [{ on: "2026-05-18", buds: "leafing", verdict: "took" }, *visits]))
    end
    biting = [{ on: "2026-07-10", wrap: "biting" }]
    slit = ->(done = []) { told["2026-07-12", biting, done] & %w[slit-tape slit-now] }
    expect([slit[], slit[[{ key: "slit-now:2026-07-10", on: "2026-07-11" }]],
            told["2026-07-12", []] & %w[slit-tape slit-now]]).to eq [%w[slit-now], [], %w[slit-tape]]
    many = ->(on, day) { told[day, [{ on: on, stock_shoots: "many" }]] & %w[stock-shoots-later stock-shoots-now] }
    expect([many["2026-05-20", "2026-05-22"], many["2026-05-26", "2026-05-26"]])
      .to eq [%w[stock-shoots-now], %w[stock-shoots-later]]
    long = lambda do |mm, *done|
      told["2026-08-04", [{ on: "2026-08-01", longest_shoot_mm: mm }],
           done.map { |key, on| { key: key, on: on } }] & %w[shorten long-shoot]
    end
    expect([long[601], long[601, ["shorten", "2026-07-01"]], long[600, ["shorten", "2026-07-01"]],
            long[601, ["shorten", "2026-08-01"]]]).to eq [%w[long-shoot], %w[long-shoot], [], []]
    # A shoot that is a hand long is let grow for a week.
    hand = ->(day) { told[day, [{ on: "2026-08-01", longest_shoot_mm: 300 }]] & %w[shorten long-shoot] }
    expect(%w[2026-08-07 2026-08-08].map(&hand)).to eq [[], %w[shorten]]
    braced = [["shorten", "2026-07-01"], ["brace", "2026-07-20"]]
    expect(long[900, *braced]).to eq []
  end

  it "a plant alongside has not taken by its leaves, which the donor's root feeds, nor by a long shoot" do
    told = lambda do |seen|
      reckon("care", graft: { grafted_on: "2026-05-01", method: "approach", species: "apple" },
                     observations: [{ on: "2026-05-12", **seen }], today: "2026-06-20")[:state]
    end
    expect([told[{ buds: "leafing" }], told[{ longest_shoot_mm: 400 }], told[{ verdict: "took" }]])
      .to eq %w[late late growing]
    expect(told[{ buds: "leafing", callus: "some" }]).to eq "callused"
  end

  describe "a chip bud" do
    def bud(day, visits = [])
      made = Date.new(2026, 8, 10)
      reckon("care", graft: { grafted_on: made.iso8601, method: "chip-bud", species: "apple" }, school: "waxed-rind",
                     observations: visits.map { |after, seen| { on: (made + after).iso8601, **seen } },
                     today: (made + day).iso8601)
    end

    it "is touched, untied, headed when it swells and its shoot tied, and never opened" do
      touched = { 16 => { leaf_stalk: "falls" } }
      expect(open(bud(15))).to include "bud-look"
      expect(bud(17, touched)[:state]).to eq "sleeping"
      expect(open(bud(25, touched))).to include "bud-tie"
      spring = bud(222, touched)
      expect(open(spring)).to include "bud-head"
      leafing = bud(285, touched.merge(260 => { buds: "leafing", callus: "full" }))
      expect([leafing[:state], open(leafing).include?("bud-shoot")]).to eq ["growing", true]
      rules = [15, 25, 60, 222].flat_map { |day| bud(day, touched)[:tasks].map { |task| task[:rule] } }
      expect(rules & %w[open-if-still first-look choose shorten brace]).to eq []
    end

    it "is looked at when it should grow, until it was seen to, and tended as a limb from the winter after" do
      touched = { 16 => { leaf_stalk: "falls" } }
      # Buds wake on 15 March, 217 days on, and are looked at from a month later.
      expect([246, 247, 252].map { |day| open(bud(day, touched)).include?("bud-growth") }).to eq [false, true, true]
      grown = touched.merge(260 => { buds: "leafing", longest_shoot_mm: 90 })
      expect(open(bud(265, grown))).not_to include "bud-growth"
      # In February of its first winter, and of its second.
      expect([190, 190 + 365].map { |day| open(bud(day, grown)).include?("year-one-shoot") }).to eq [false, true]
    end

    it "sleeps until spring as well where callus was seen, and is headed then" do
      seen = { 28 => { buds: "asleep", callus: "some" } }
      expect(bud(40, seen)[:state]).to eq "sleeping"
      expect(open(bud(222, seen))).to include "bud-head"
      expect(bud(40, seen)[:tasks].map { |task| task[:rule] }).not_to include "insurance-bud"
      expect(bud(285, seen.merge(260 => { buds: "leafing" }))[:state]).to eq "growing"
    end
  end

  it "follows an approach graft: the donor is watered, looked at, half cut, cut off, and the stock after it" do
    joined = { method: "approach", species: "persimmon", headed: false }
    expect(open(care_on(6, [], **joined))).to include "donor-water"
    expect(open(care_on(22, [], **joined))).to include "approach-look"
    early = care_on(60, [], **joined)[:tasks].map { |task| task[:rule] }
    expect(early).not_to include("approach-half", "open-if-still")
    told = lambda do |day, did = {}|
      reckon("care", graft: { grafted_on: GRAFTED.iso8601, **joined }, weather: weather(day + 1), school: "waxed-rind",
                     observations: [{ on: (GRAFTED + 30).iso8601, callus: "full" }],
                     done: did.map { |key, (on, what)| { key: key, on: (GRAFTED + on).iso8601, what: what || "done" } },
                     today: (GRAFTED + day).iso8601)
    end
    cuts = %w[approach-half approach-off approach-head]
    asked = ->(*facts) { open(told[*facts]) & cuts }
    # One after the other: half, a week on the rest, and then the stock, however late the first is done.
    expect([asked[44], asked[52], asked[54, { "approach-half" => [50] }], asked[57, { "approach-half" => [50] }]])
      .to eq [%w[approach-half], %w[approach-half], [], %w[approach-off]]
    off = { "approach-half" => [50], "approach-off" => [58] }
    expect([asked[60, off], asked[63, off]]).to eq [[], %w[approach-head]]
    # Left out, or left undone until its time was over, it is cut off all the same.
    expect([asked[60, { "approach-half" => [50, "waived"] }], asked[62], asked[63]])
      .to eq [%w[approach-off], [], %w[approach-off]]
    # It is asked for until it is off, through the winter and the next summer; and so is the stock above it.
    expect([asked[200], asked[400], asked[240, off]]).to eq [%w[approach-off], %w[approach-off], %w[approach-head]]
  end

  it "asks to slit the cord of an approach graft by itself where the head above was taken off before" do
    asked = lambda do |head_off, day, did = []|
      graft = { grafted_on: GRAFTED.iso8601, method: "approach", species: "apple", headed: false, head_off: head_off }
      told = reckon("care", graft: graft, observations: [{ on: (GRAFTED + 30).iso8601, callus: "full" }],
                            weather: weather(day + 1), school: "waxed-rind", today: (GRAFTED + day).iso8601,
                            done: [{ key: "approach-off", on: (GRAFTED + 58).iso8601, what: "done" }, *did])
      open(told) & %w[approach-head approach-slit]
    end
    slit = [{ key: "approach-slit", on: (GRAFTED + 66).iso8601, what: "done" }]
    expect([asked[false, 64], asked[true, 64], asked[true, 70, slit]]).to eq [%w[approach-head], %w[approach-slit], []]
  end

  it "follows a side graft: the head stays, and is weakened when the graft grows" do
    side = care_on(45, { 25 => { buds: "leafing", callus: "some" } }, method: "side-bark", headed: false)
    expect([side[:state], open(side).include?("side-weaken")]).to eq ["growing", true]
    stub = care_on(45, { 25 => { buds: "leafing", callus: "some" } })
    expect(open(stub)).not_to include "side-weaken"
  end
end
