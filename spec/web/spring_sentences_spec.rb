# frozen_string_literal: true

RSpec.describe Vestry::Web::Sentences do
  let(:here) { orchard(units: "metric") }
  let(:voice) do
    place = here
    Class.new { include Vestry::Web::Helpers::Words; include Vestry::Web::Sentences; define_method(:orchard) { place } }
      .new
  end

  def reckon(name, input) = Vestry::Core.reckoning(name).reckon(JSON.parse(JSON.generate(input)))

  # What the planning, the wood and the spring can give as reasons, brought about by their own figures.
  def reasons
    limbs = [{ id: 1, share: 0.5, bearing_deg: 0, height_mm: 2000 },
             { id: 2, share: 0.3, bearing_deg: 90, height_mm: 1500 },
             { id: 3, share: 0.2, bearing_deg: 180, height_mm: 1500 }]
    stages = [[0.4, 2], [0.6, 1]].flat_map do |cap, seasons|
      reckon("stages", limbs: limbs, cap: cap, seasons_max: seasons)[:reasons]
        .map { |reason| reason.key?(:limb) ? reason.merge(limb: "A") : reason }
    end
    vigour = [[0.1, 1], [0.6, 4], [1.0, 4]].flat_map do |kept, stubs|
      reckon("vigour", kept: kept, stubs: stubs)[:reasons]
    end
    stored = [[[0, 1], [200, 1]], [[0, 1], [120, 1]], [[0, 9], [1, 9]], [[0, -4], [1, 1], [2, 1]],
              [[0, 9], [0.2, 1], [0.4, 1]]].flat_map do |pairs|
      reckon("storage", readings: pairs.map { |day, celsius| { at: (Time.utc(2026, 1, 1) + day * 86_400).iso8601,
          celsius: celsius } })[:reasons]
    end
    days = [{ rain_mm: 5 }, { gust_ms: 12 }, { min_c: 2, max_c: 6 }, { min_c: -2 }].each_with_index.map do |change, i|
      { date: (Date.new(2026, 4, 20) + i).iso8601, min_c: 8, max_c: 18, rain_mm: 0, gust_ms: 3 }.merge(change)
    end
    board = reckon("graft-day", species: "apple", needs_slip: true, ladder: true, days: days,
                   season: { opens_on: "2026-04-21", closes_on: "2026-04-22" },
                   slip: { p10: "2026-04-18", p50: "2026-04-20", p90: "2026-04-30" })[:days]
            .flat_map { |day| day[:reasons] }
    windows = %w[bark_closes_on heat_on wood_ends_on first_frost_on].flat_map do |field|
      reckon("window", { species: "apple", opens_on: "2026-04-14",
                         first_frost_on: "2026-12-12" }.merge(field => "2026-06-01"))[:reasons]
    end
    stub = { method: "rind", opens_on: "2026-04-20", closes_on: "2026-04-25", minutes: 60 }
    soon = { closes_on: "2026-04-21" }
    crew = [[{ closes_on: "2026-04-01" }, {}], [{ closes_on: "2026-04-20" }, {}], [soon, { verdict: "wait" }],
            [soon, { hours: 0 }]].flat_map do |late, day|
      reckon("crew", stubs: [stub.merge(id: 1, **late)],
             days: [{ date: "2026-04-21", hours: 4, grafters: 1, **day }])[:missed_reasons]
    end
    flaps = [[4, 16, 10], [4, 12, 16], [3, 8, 8], [4, 1.5, 10]].flat_map do |n, scion, stock|
      reckon("flaps", flaps: n, scion_mm: scion, stock_wood_mm: stock, bark_mm: 3)[:reasons]
    end
    stages + vigour + stored + board + windows + crew + flaps
  end

  it "has bark slip on the day on which it closes, and closed on the next" do
    said = [10, 11].map do |day|
      voice.define_singleton_method(:today) { Date.new(2026, 7, day) }
      voice.say_bark_reached({ reached_on: Date.new(2026, 4, 20), basis: "seen" }, Date.new(2026, 7, 10))
    end
    expect(said).to eq ["slips since 20 April (seen)", "slipped from 20 April, and closed about 10 July"]
  end

  it "has a sentence for every reason of the plan, the wood and the spring" do
    said = reasons.map { |reason| [reason[:code], voice.say(reason)] }
    expect(said.map(&:first).uniq.size).to be > 26
    expect(said.map(&:last)).to all(match(/\A[A-Z0-9–].*[.!?]\z/m))
    expect(said.map(&:last).join).not_to match(/\d\.\d{3,}|nil|NaN/)
  end

  it "has a sentence for everything that can be wrong with a plan" do
    figures = { limb: 1, tag: "A", tags: %w[A B], variety: "Evensong", why: "One species.", delayed: "Parts.",
                length_mm: 900, cut_mm: 950, was_mm: 50, now_mm: 60, conflict: ["browse"], have: 0, wanted: 1,
                shoot_mm: 1500, long_mm: 1200, share: 0.5, cap: 0.4, season: 2027, short: 3, above: 0.7,
                largest_kept: 0.6, count: 5, most: 3, arms: 4, of: 4, branch: "A1", state: "lost" }
    (Vestry::Core::Plan::Soundness::ORDER + ["plan_short_wood"]).each do |code|
      expect([code, voice.say(figures.merge(code: code))]).to match [code, /\A[A-Z0-9].*[.!]\z/]
    end
    expect(voice.say(code: "plan_over_cap", tag: nil, season: 2027, share: 0.5, cap: 0.4)).to include("2027 takes 50 %")
  end

  it "says why a spring is told by the calendar: no weather, too few springs, or a kind that keeps its leaves" do
    voice.extend(Vestry::Web::Helpers::Workings::WoodWorkings)
    told = [["apple", nil], ["apple", 61.7], ["citrus", nil]].map do |kind, sum|
      voice.calendar_reason(kind, { accumulated_dd: sum, threshold_dd: 180.0 })
    end
    expect(told).to eq ["no weather is kept of these days",
                        "this spring has come to 62 of 180 degree-days; the past springs that are kept are fewer " \
                        "than four, or none came to that",
                        "a kind that keeps its leaves has no winter's sleep to count from"]
  end

  it "says a spring as it stands: come, likely, or by ordinary dates" do
    day = Date.new(2026, 4, 10)
    expect(voice.say_bark_forecast(reached_on: day, basis: "weather")).to eq "slips since 10 April 2026"
    expect(voice.say_bark_forecast(reached_on: day, basis: "seen")).to include("(seen)")
    expect(voice.say_bark_forecast(p10: day - 5, p50: day, p90: day + 5, basis: "weather"))
      .to eq "as likely as not by 10 April 2026; between 5 Apr and 15 Apr"
    expect(voice.say_bark_forecast(p10: day, p50: day, p90: day, basis: "calendar"))
      .to eq "by 10 April 2026 in ordinary years"
    expect(voice.say_bark_forecast(reached_on: day, basis: "calendar"))
      .to eq "slips since 10 April 2026, in an ordinary year"
    expect(voice.say_bark_forecast(reached_on: day, basis: "calendar", accumulated_dd: 90.2, threshold_dd: 180.0))
      .to eq "slips since 10 April 2026 in an ordinary year; this one has come to 90 of 180 degree-days: test it"
    expect(voice.say_bark_forecast({ basis: "weather" })).to eq "not known"
  end

  it "says amounts as they are bought, and warmth as it is read here" do
    expect(voice.say_amount(unit: "m", amount: 33.2)).to eq "34 m"
    expect(voice.say_amount(unit: "piece", amount: 16)).to eq "16"
    here.update(units: "imperial")
    expect([voice.say_amount(unit: "m", amount: 3.0), voice.warmth(0), voice.thickness(12.7)])
      .to eq ["10 ft", "32 °F", "1/2 in"]
    # 76 in are 193 cm, and 2 oz are 56.7 g; a bottle of glue is marked in ml there too.
    expect([["cm", 192], ["g", 40], ["ml", 1.6]].map { |unit, amount| voice.say_amount(unit: unit, amount: amount) })
      .to eq ["76 in", "2 oz", "2 ml"]
  end
end
