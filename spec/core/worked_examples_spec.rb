# frozen_string_literal: true

# One example of each reckoning, worked by hand or on paper: the answer of the command and of the application.
RSpec.describe "The worked examples", :core do
  def close(value, digits = 5) = be_within(10**-digits).of(value)

  it "of survey" do
    expect(reckon("section", girth_mm: 220, bark_mm: 3))
      .to include(diameter_mm: close(70.0282, 4), wood_diameter_mm: close(64.0282, 4), area_mm2: close(3851.55, 2))
    expect(reckon("bark", diameter_mm: 60, species: "walnut")[:bark_mm]).to close(5.1)
    limbs = [["A", nil, 70, 0], ["A1", "A", 40, 900], ["B", nil, 60, 0], ["C", nil, 50, 0]].map do |id, parent, mm, at|
      { id: id, parent: parent, diameter_mm: mm, length_mm: 2000, fork_at_mm: at }
    end
    canopy = reckon("canopy", limbs: limbs, cuts: [{ limb: "A", at_mm: 700 }])
    expect(canopy[:shares].transform_keys(&:to_s)).to include("A" => close(0.44545), "A1" => close(0.14545),
                                                              "B" => close(0.32727), "C" => close(0.22727))
    expect(canopy[:removed]).to close(0.44545)
    expect(reckon("cut-point", base_diameter_mm: 80, length_mm: 2600, fork_height_mm: 1300, rise_deg: 40,
                               method: "rind", lowest_mm: 1500, highest_mm: 2400))
      .to include(from_mm: close(311.145, 3), to_mm: close(1711.296, 3), at_mm: close(1160.714, 3),
                  diameter_mm: close(55.0), height_mm: close(2046.09, 2))
  end

  it "of the plan" do
    scores = ->(place) do
      reckon("methods", stock_mm: 62, scion_mm: 9, slipping: true, species: "apple", place: place)[:ranking]
        .reject { |each| each[:blocked] }.to_h { |each| [each[:method], each[:score]] }
    end
    expect(scores.call("end")).to match("bark" => close(90), "inlay" => close(90), "rind" => close(90),
                                        "cleft" => close(81.225))
    expect(scores.call("side")).to match("side-bark" => close(76.5))
    expect(reckon("sticks", wood_diameter_mm: 58, practice: "ring", rise_deg: 75, flat_deg: 40, wind_from_deg: 240))
      .to include(count: 3, bearings_deg: [224.0, 344.0, 104.0])
    limbs = [["A", 0.24, 10, 1500], ["B", 0.20, 130, 1700], ["C", 0.18, 250, 2000], ["D", 0.14, 190, 2300]]
      .map { |id, share, bearing, height| { id: id, share: share, bearing_deg: bearing, height_mm: height } }
    expect(reckon("stages", limbs: limbs, cap: 0.45, seasons_max: 3))
      .to include(seasons: [%w[B C], %w[A D]], cost: close(0.494697, 6))
    expect(reckon("vigour", kept: 0.3, stubs: 4)).to include(push: close(2.17391), shoot_mm: close(978.261, 3))
    expect(reckon("bloom", a: { from: "2026-04-20", to: "2026-05-01" }, b: { from: "2026-04-27", to: "2026-05-09" }))
      .to include(overlap_days: 5)
    nights = [2, 1, -1, 0, -3, 2, 3, 4]
    days = nights.each_with_index.map { |min, i| { date: "2025-04-0#{i + 1}", min_c: min, max_c: 13 } }
    frost = reckon("frost", base_c: 5, from_dd: 10, to_dd: 18, history: [days])[:years].first
    expect(frost).to include(bloom_from: Date.new(2025, 4, 4), bloom_to: Date.new(2025, 4, 7), coldest_c: -3,
                             loss: close(0.476471, 6))
    choices = reckon("stick-choice", diameter_mm: 64, take: 0.8, most_sticks: 5)[:choices].first(3)
    expect(choices.map { |each| [each[:sticks], each[:stub_take].round(9), each[:seasons_to_close]] })
      .to eq [[1, 0.8, 4], [2, 0.96, 3], [3, 0.992, 2]]
  end

  it "of the wood" do
    line = { name: "Morning Bell", stubs: 8, sticks_per_stub: 2, success: 0.75 }
    wood = reckon("wood", varieties: [line], confidence: 0.9, cull: 0.1, stick_mm: 200, shoot_mm: 900, tip_mm: 100,
                          base_mm: 50)
    expect(wood[:sticks_per_shoot]).to eq 3
    expect(wood[:names].first).to include(sticks: 16, reserve: 2, total: 22, shoots: 8)
    stubs = [0.4, 0.3, 0.2].each_with_index.map { |worth, i| { id: i, worth: worth, take: 0.6, most_sticks: 2 } }
    few = [3, 4].map { |sticks| reckon("scarce", stubs: stubs, sticks: sticks) }
    expect(few.map { |each| each[:stubs].map { |stub| stub[:sticks] } }).to eq [[1, 1, 1], [2, 1, 1]]
    expect(few.map { |each| each[:expected] }).to match [close(0.54), close(0.636)]
    expect(reckon("dilution", total_ml: 2000, target_percent: 0.2, product_percent: 4.5))
      .to include(product_ml: close(88.889, 3), water_ml: close(1911.111, 3))
    readings = [["2026-02-01", 1], ["2026-03-03", 11], ["2026-03-06", 11]].map { |at, c| { at: at, celsius: c } }
    stored = reckon("storage", readings: readings)
    expect(stored).to include(equivalent_days: close(56.6111, 4), warm_degree_hours: close(1989),
                              life_left_share: close(0.0224942, 7))
    expect(stored[:gaps].size).to eq 1
  end

  it "of the bark" do
    days = Array.new(40) { |i| { date: Date.new(2026, 4, 10) + i, min_c: 6, max_c: 17 } }
    expect(reckon("degree-days", days: [{ date: "2026-04-01", min_c: 2, max_c: 16 }], base_c: 6)[:total])
      .to close(3.93612)
    callus = reckon("callus", species: "apple", days: days.map { |day| day.merge(date: day[:date].iso8601) })
    expect(callus[:daily].first).to close(0.602917, 6)
    expect(callus[:knit_on]).to eq Date.new(2026, 4, 26)
    expect(callus[:knit_from]).to be < callus[:knit_on]
    expect(callus[:knit_to]).to be > callus[:knit_on]
    expect(reckon("window", species: "apple", opens_on: "2026-04-14", heat_on: "2026-06-20",
                            wood_ends_on: "2026-06-05", first_frost_on: "2026-10-12"))
      .to include(closes_on: Date.new(2026, 6, 5), decided_by: "wood_ends_on", open: true)
    expect(reckon("closing", species: "apple", latitude_deg: 53, altitude_m: 120, observed: [130, 134])[:closes_day])
      .to close(136.5)
  end

  it "of grafting and repair" do
    expect(reckon("tape", diameter_mm: 60, wrap_mm: 80, tape_mm: 25, overlap: 0.5, passes: 2))
      .to include(turns: close(6.4), length_mm: close(2418.04, 2))
    expect(reckon("flaps", flaps: 4, scion_mm: 16, stock_wood_mm: 15))
      .to include(depth_mm: close(1.83843), flat_mm: close(10.2049, 4), flap_mm: close(11.7810, 4), covered_share: 1,
                  overlap_mm: 0, reaches_wood: true)
    margins = [[0, 100, 100], [90, 60, 180], [180, 40, 260], [270, 80, 200]]
      .map { |bearing, low, high| { bearing_deg: bearing, low_mm: low, high_mm: high } }
    bridge = reckon("bridge", girth_mm: 300, wound: margins)
    expect(bridge).to include(girdled_share: close(0.99722), count: 5)
    expect(bridge[:scions][1]).to include(bearing_deg: close(108.7, 1), gap_mm: close(140.778, 3),
                                          length_mm: close(236.184, 3))
  end

  it "of aftercare" do
    expect(reckon("wind", weeks: 8, base_diameter_mm: 12, gust_ms: 15))
      .to include(strength_mpa: close(4.99307), resisting_nm: close(0.847054, 6), safe_length_mm: close(584.353, 3))
    expect(reckon("wind", weeks: 8, base_diameter_mm: 12, gust_ms: 15, shoots: 2, stick_mm: 120)[:safe_length_mm])
      .to close(310.272, 3)
    expect(reckon("fruit", weeks: 52, base_diameter_mm: 16, lever_mm: 500, fruit_g: 180, season: 2, none_for: 1))
      .to include(could_carry: 3, fruits: 3)
    stubs = [[[40], "alive"], [[30, 20], "alive"]].map do |shoots, state|
      { share: 0.35, stub_mm: 60, shoots_mm: shoots, state: state }
    end
    expect(reckon("nurse", nurse_share: 0.2, kept_other: 0.1, stubs: stubs, seasons_since: 2))
      .to include(action: "shorten", kept_after: close(0.381944, 6))
  end

  it "of the tally" do
    readings = [[1, 54, 50], [2, 42, 36]].map { |season, a, b| { season: season, a_mm: a, b_mm: b } }
    expect(reckon("closure", stub_mm: 64, readings: readings))
      .to include(closed_share: close(0.630859, 6), rate_mm: close(5.4), closes_in_season: 6)
    expect(reckon("closure", stub_mm: 64, readings: [], living: 2))
      .to include(rate_mm: close(14.142, 3), closes_in_season: 3)
    expect(reckon("take", takes: 17, trials: 22))
      .to include(rate: close(0.77273), low: close(0.56560), high: close(0.89877), expected: close(0.75333))
    parts = [["X", 4000], ["Y", 1500], ["Z", 2000]].map { |id, section| { id: id, section_mm2: section } }
    balance = reckon("balance", parts: parts)[:parts]
    expect(balance.map { |each| each[:index] }).to match [close(1.6), close(0.6), close(0.8)]
    expect(balance.first[:shorten]).to close(0.375)
    strata = [[18, 20, 6, 10], [2, 5, 9, 20]].map { |a, n1, c, n0| { a: a, n1: n1, c: c, n0: n0 } }
    expect(reckon("compare", strata: strata)).to include(difference: close(0.16875), sd: close(0.143785, 6),
                                                         low: close(-0.113, 3), high: close(0.451, 3),
                                                         chi2: close(1.521, 3))
  end
end
