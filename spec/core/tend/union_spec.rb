# frozen_string_literal: true

RSpec.describe "wind and fruit", :core do
  it "reckons the worked examples" do
    wind = reckon("wind", weeks: 8, base_diameter_mm: 12, gust_ms: 15)
    expect([wind[:strength_mpa].round(5), wind[:resisting_nm].round(6), wind[:safe_length_mm].round(3)])
      .to eq [4.99307, 0.847054, 584.353]
    expect(reckon("fruit", weeks: 52, base_diameter_mm: 16, lever_mm: 500, fruit_g: 180, season: 2, none_for: 1))
      .to include(could_carry: 3, fruits: 3)
    expect(reckon("fruit", weeks: 52, base_diameter_mm: 16, lever_mm: 500, fruit_g: 180, season: 1, none_for: 1))
      .to include(could_carry: 3, fruits: 0)
  end

  it "adds up shoots, and what the stick stands out" do
    two = reckon("wind", weeks: 8, base_diameter_mm: 12, gust_ms: 15, shoots: 2, stick_mm: 120)
    expect([two[:resisting_nm].round(6), two[:safe_length_mm].round(3)]).to eq [0.847054, 310.272]
  end

  it "never calls a longer shoot of the same age safer by more than it is longer" do
    spare = [100, 300, 500, 700, 1000, 1500].map do |length|
      reckon("wind", weeks: 8, length_mm: length, gust_ms: 15)[:safe_length_mm] - length
    end
    expect(spare).to eq spare.sort.reverse
    expect([spare.first > -20, spare.last < -1000]).to eq [true, true]
    expect(reckon("wind", weeks: 8, length_mm: 900, gust_ms: 15)[:base_diameter_mm]).to be_within(1e-9)
      .of(2.5 + 0.0095 * 600)
    expect(refusal("wind", weeks: 8, gust_ms: 15).field).to eq "base_diameter_mm"
  end

  it "lets an older, thicker, better held union bear more, a stronger gust and a broader leaf less" do
    base = { weeks: 10, base_diameter_mm: 12, gust_ms: 15 }
    safe = ->(more = {}) { reckon("wind", base.merge(more))[:safe_length_mm] }
    expect([safe.call(weeks: 20), safe.call(base_diameter_mm: 15)]).to all(be > safe.call)
    expect([safe.call(gust_ms: 20), safe.call(leaf_width_mm: 150), safe.call(hold: 0.6)]).to all(be < safe.call)
    expect(safe.call(weeks: 0)).to eq 0.0
    expect(reckon("fruit", weeks: 0, base_diameter_mm: 12, lever_mm: 500, fruit_g: 180, season: 3,
                  none_for: 1)[:could_carry]).to eq 0
  end

  it "refuses what cannot be" do
    expect([refusal("wind", weeks: -1, base_diameter_mm: 12, gust_ms: 15),
            refusal("wind", weeks: 1, base_diameter_mm: 0, gust_ms: 15),
            refusal("wind", weeks: 1, base_diameter_mm: 9, gust_ms: 15, hold: 2),
            refusal("fruit", weeks: 1, base_diameter_mm: 9, lever_mm: 1, fruit_g: 1, season: 0, none_for: 1)]
              .map(&:field))
      .to eq %w[weeks base_diameter_mm hold season]
  end

  it "holds flaps whole, and bark as its stub closes" do
    book = Vestry::Core::Rulebook.shipped
    hold = ->(method, closed) { Vestry::Core::Tend::Union.hold(method, closed, book) }
    expect([hold["four-flap", 0.0], hold["bark", 0.0], hold["bark", 0.5], hold["bark", 1.0]]).to eq [1.0, 0.6, 0.8, 1.0]
  end
end

RSpec.describe "cause", :core do
  BASE = { species: "apple", grafted_on: "2026-04-20", failed_on: "2026-06-05" }.freeze

  def cause(**more) = reckon("cause", BASE.merge(more))
  def days(count, min, max, **more)
    Array.new(count) { |i| { date: (Date.new(2026, 4, 20) + i).iso8601, min_c: min, max_c: max }.merge(more) }
  end

  it "says nothing is known where nothing was seen" do
    expect(cause).to eq(causes: [], unknown: 1.0)
  end

  it "ranks by evidence and leaves room for what nobody saw" do
    answer = cause(seal_cracked: true, bark_slip: "reluctant")
    expect(answer[:causes].map { |each| each[:cause] }).to eq %w[dried bark]
    expect(answer[:causes].sum { |each| each[:share] } + answer[:unknown]).to be_within(1e-9).of(1)
    expect(answer[:causes].first[:share]).to be < 0.6
  end

  it "reads cold, heat under a cover, a gale on what had grown, and frost" do
    expect(cause(weather: days(46, 1, 9))[:causes].first).to include(cause: "cold")
    expect(cause(weather: days(46, 15, 33), cover: "foil-and-bag")[:causes].first).to include(cause: "heat")
    gale = days(46, 8, 18).tap { |all| all[42][:gust_ms] = 19 }
    expect(cause(weather: gale, had_grown: true)[:causes].first[:evidence])
      .to eq [{ sign: "gale", on: Date.new(2026, 6, 1) }]
    expect(cause(weather: gale)[:causes]).to eq []
  end

  it "takes frost for a cause of what grew while growth was soft" do
    frost = lambda do |on, **more|
      cause(weather: [{ date: on, min_c: -5, max_c: 6 }], had_grown: true, **more)[:causes].any?
    end
    expect([frost["2026-05-20", failed_on: "2026-05-28"], frost["2027-02-20", failed_on: "2027-02-28"],
            frost["2026-11-20", failed_on: "2026-11-28", southern: true],
            frost["2026-05-20", failed_on: "2026-05-28", southern: true]]).to eq [true, false, true, false]
  end

  it "looks for nothing in the grafting of one that grew through its first summer" do
    of_grafting = { wood_life_left: 0.3, wood_warm_hours: 900, bark_slip: "none", seal_cracked: true, moved_early: true,
                    day_failed: 5, mates_took: 1, weather: days(46, 1, 33) }
    signs = lambda do |failed_on, grown|
      cause(**of_grafting, failed_on: failed_on, had_grown: grown)[:causes]
        .flat_map { |each| each[:evidence].map { |sign| sign[:sign] } }.sort
    end
    # 150 days after the day it was made.
    all = signs["2026-09-17", true]
    expect(all).to include("old-wood", "warm-wood", "false-start", "bark-none", "seal-cracked", "hot-days",
                           "day-failed", "stub-mates-live")
    expect(signs["2026-09-18", true]).to eq []
    expect(signs["2028-09-18", false]).to eq all
  end

  it "looks for heat in the three weeks before what grew on was seen dead" do
    hot = ->(on) { [{ date: on, min_c: 15, max_c: 36 }] }
    heat = lambda do |on|
      cause(weather: hot[on], had_grown: true, failed_on: "2028-07-31", cover: "film")[:causes]
        .map { |each| each[:cause] }
    end
    expect(%w[2028-07-09 2028-07-10 2028-07-31].map(&heat)).to eq [[], %w[heat], %w[heat]]
  end

  it "tells the stick from the stub and from the day" do
    expect(cause(mates_took: 1)[:causes].map { |each| each[:cause] }).to eq %w[stick]
    expect(cause(day_took: 6, day_failed: 1)[:causes].map { |each| each[:cause] }).to eq %w[stub]
    expect(cause(day_took: 2, day_failed: 2)[:causes]).to eq []
    expect(cause(day_took: 1, day_failed: 5)[:causes].map { |each| each[:cause] }).to eq %w[day]
    expect(cause(wood_life_left: 0.3, wood_warm_hours: 900)[:causes].first).to include(cause: "wood")
  end
end
