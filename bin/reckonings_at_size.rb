# frozen_string_literal: true

# The reckonings that have much to do, each on as much as a large orchard gives it.
module ReckoningsAtSize
  module_function

  def day(from, i) = (Date.iso8601(from) + i).iso8601
  def weather(from, count)
    Array.new(count) do |i|
      { date: day(from, i), min_c: 6 - 5 * Math.cos(i / 58.0), max_c: 15 - 8 * Math.cos(i / 58.0) }
    end
  end
  def springs = (2014..2025).map { |year| weather("#{year}-02-01", 240) }

  # Name => what it is about, the reckoning, and its input.
  def all
    chance = Random.new(3)
    { "canopy" => ["40 limbs, 6 cuts", { limbs: Array.new(40) { |i| { id: i, parent: i < 8 ? nil : i % 8,
                                                                      diameter_mm: i < 8 ? 70 : 30, fork_at_mm: i < 8 ?
                                                                      0 : 900 } }, cuts: Array.new(6) { |i| { limb: i,
                                                                        at_mm: 700 } } }],
      "stages" => ["12 limbs, 3 seasons, exact", { limbs: Array.new(12) { |i| { id: i, share: 1 / 14.0,
        bearing_deg: i * 30, height_mm: 1200 + i * 110 } }, cap: 0.4, seasons_max: 3 }],
      "match" => ["300 places, 400 sticks", { sites: Array.new(300) { |i| { id: i, method: "four-flap",
        diameter_mm: 12 + chance.rand * 10, sticks: 1, variety: "A" } },
        sticks: Array.new(400) { |i| { id: i, diameter_mm: 10 + chance.rand * 14, variety: "A" } } }],
      "wood" => ["40 varieties", { varieties: Array.new(40) { |i| { name: "Trial #{i}", stubs: 20 + i,
                                                                    sticks_per_stub: 2, success: 0.7 } }, stick_mm: 200,
                                                                    shoot_mm: 900, tip_mm: 100, base_mm: 50 }],
      "storage" => ["a winter of hours", { readings: Array.new(2880) { |i| { at: (Time.utc(2026, 1, 20) +
        i * 3600).iso8601, celsius: 1.5 + (i % 7) / 4.0 } } }],
      "slip" => ["12 past springs", { species: "apple", days: weather("2026-02-01", 50),
                                      forecast: weather("2026-03-23", 10), history: springs, observed_dd: [110, 130] }],
      "frost" => ["12 past springs", { base_c: 6, from_dd: 180, to_dd: 320, history: springs }],
      "callus" => ["60 days", { species: "walnut", days: weather("2026-04-20", 60) }],
      "crew" => ["1,200 stubs, 14 days", { stubs: Array.new(1200) { |i| { id: i, method: "rind", opens_on: "2026-05-10",
        closes_on: day("2026-05-20", i % 20), minutes: 20, tree: i, row: i % 40, variety: i % 12 } },
        days: Array.new(14) { |i| { date: day("2026-05-18", i), hours: 7, grafters: 4 } } }],
      "care" => ["30 visits, 120 days of weather", { graft: { grafted_on: "2026-04-10", method: "rind",
                                                              species: "apple" }, observations: Array
                                                                .new(30) { |i| { on: day("2026-04-14", i),
                                                                  buds: "leafing" } }, weather: weather("2026-04-10",
                                                                    38), today: "2026-05-18" }],
      "bridge" => ["24 readings", { girth_mm: 900, wound: Array.new(24) { |i| { bearing_deg: i * 15,
        low_mm: 60 + i % 5 * 10, high_mm: 200 + i % 7 * 12 } } }],
      "projection" => ["3 plans, 12 limbs", { plans: Array.new(3) { |n| { name: n,
        work: Array.new(12) { |i| { id: i, share: 1 / 14.0, season: i % (n + 1) } } } } }] }
  end
end
