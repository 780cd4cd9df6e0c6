# frozen_string_literal: true

RSpec.describe "vigour" do
  def vigour(**input) = reckon("vigour", { kept: 0.3, stubs: 4 }.merge(input))

  it "works out the example" do
    expect(vigour[:push]).to be_within(1e-5).of(2.17391)
    expect(vigour[:shoot_mm]).to be_within(1e-3).of(978.261)
  end

  it "never pushes more than four times, and says what is wrong with what is kept" do
    expect(vigour(kept: 0, stubs: 0)[:push]).to eq 4
    codes = ->(**input) { vigour(**input)[:reasons].map { |each| each[:code] } }
    expect([codes.(kept: 0.05, stubs: 1), codes.(), codes.(kept: 1, stubs: 3)])
      .to eq [["vigour_keep_more"], ["vigour_well"], ["vigour_well"]]
    expect([codes.(above: 0.5), codes.(above: 0.51)]).to eq [["vigour_well"], ["vigour_overtopped"]]
    expect([codes.(largest_kept: 0.5), codes.(largest_kept: 0.51)]).to eq [["vigour_well"], ["vigour_nurse_too_strong"]]
    expect(codes.(kept: 0.05, stubs: 1, above: 0.9, largest_kept: 0.79))
      .to eq %w[vigour_keep_more vigour_overtopped vigour_nurse_too_strong]
  end

  it "pushes less the more is kept" do
    PropCheck.forall(PropCheck::Generators.tuple(PropCheck::Generators.choose(0..99),
                                                 PropCheck::Generators.choose(0..9))) do |(kept, stubs)|
      expect(vigour(kept: (kept + 1) / 100.0, stubs: stubs)[:push])
        .to be <= vigour(kept: kept / 100.0, stubs: stubs)[:push]
    end
  end

  it "refuses a share above one and half a stub" do
    expect(refusal("vigour", kept: 1.1, stubs: 1).field).to eq "kept"
    expect(refusal("vigour", kept: 0.1, stubs: 1.5).field).to eq "stubs"
  end
end

RSpec.describe "bloom" do
  def overlap(from, to, other_from, other_to)
    reckon("bloom", a: { from: "2026-#{from}", to: "2026-#{to}" },
           b: { from: "2026-#{other_from}", to: "2026-#{other_to}" })[:overlap_days]
  end

  it "counts both ends" do
    expect([overlap("04-20", "05-01", "04-27", "05-09"), overlap("04-20", "05-01", "05-01", "05-09"),
            overlap("04-20", "05-01", "05-02", "05-09")]).to eq [5, 1, 0]
  end

  it "refuses a bloom that ends before it begins" do
    expect(refusal("bloom", a: { from: "2026-05-02", to: "2026-05-01" },
                   b: { from: "2026-05-01", to: "2026-05-01" }).field).to eq "a.to"
  end
end

RSpec.describe "degree-days" do
  def days(*pairs)
    pairs.each_with_index.map { |(min, max), i| { date: (Date.new(2024, 2, 28) + i).iso8601, min_c: min, max_c: max } }
  end
  def total(*pairs, **input) = reckon("degree-days", { days: days(*pairs), base_c: 6 }.merge(input))[:total]

  it "works out the example" do
    expect(total([2, 16])).to be_within(1e-5).of(3.93612)
  end

  it "is the mean above the base when the whole day is above it, and nothing when none is" do
    expect(total([8, 16])).to be_within(1e-9).of(6)
    expect(total([-4, 6], [1, 1])).to eq 0.0
    expect(total([9, 9])).to be_within(1e-9).of(3)
  end

  it "stops counting at the upper limit" do
    expect(total([10, 30], upper_c: 20)).to be < total([10, 30])
    expect(total([22, 30], upper_c: 20)).to be_within(1e-9).of(14)
  end

  it "agrees with a sine followed minute by minute" do
    PropCheck.forall(PropCheck::Generators.tuple(PropCheck::Generators.choose(-10..20),
                                                 PropCheck::Generators.choose(0..20))) do |(min, swing)|
      max = min + swing
      minutes = (0...1440).sum { |m| [(min + max) / 2.0 + swing / 2.0 * Math.sin(2 * Math::PI * (m + 0.5) / 1440) - 6,
                                      0].max } / 1440
      expect(total([min, max])).to be_within(1e-3).of(minutes)
    end
  end

  it "refuses a day whose warmest is colder than its coldest, and crossed limits" do
    expect(refusal("degree-days", days: days([5, 4]), base_c: 6).field).to eq "days[0].max_c"
    expect(refusal("degree-days", days: days([5, 9]), base_c: 6, upper_c: 6).field).to eq "upper_c"
  end
end

RSpec.describe "frost" do
  let(:year) do
    [2, 1, -1, 0, -3, 2, 3, 4].each_with_index.map { |min, i| { date: "2025-04-0#{i + 1}", min_c: min, max_c: 13 } }
  end

  def frost(**input) = reckon("frost", { base_c: 5, from_dd: 10, to_dd: 18, history: [year] }.merge(input))

  it "works out the example" do
    expect(frost[:years]).to match [{ bloom_from: Date.new(2025, 4, 4), bloom_to: Date.new(2025, 4, 7), coldest_c: -3.0,
                                      loss: be_within(1e-6).of(0.476471) }]
  end

  it "takes nothing above the killing night, a tenth at it, and never more than everything" do
    nights = ->(coldest) { frost(history: [year.map { |day| day[:date] == "2025-04-05" ? day.merge(min_c: coldest) :
                                                      day }])[:expected_loss] }
    expect([nights[-2.1], nights[-2.2], nights[-30]]).to match [0.0, be_within(1e-9).of(0.1), 1.0]
  end

  it "leaves out a year that does not get there, and promises nothing without any" do
    expect(frost(history: [year, year.first(3)])[:years].size).to eq 1
    expect(frost(history: [])).to eq(expected_loss: nil, years: [])
  end

  it "refuses crossed limits, and names a bad day by its place" do
    expect(refusal("frost", base_c: 5, from_dd: 10, to_dd: 9, history: []).field).to eq "to_dd"
    expect(refusal("frost", base_c: 5, from_dd: 10, to_dd: 18, history: [[{ date: "x", min_c: 1, max_c: 2 }]]).field)
      .to eq "history[0][0].date"
  end
end
