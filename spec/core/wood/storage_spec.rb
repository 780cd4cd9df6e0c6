# frozen_string_literal: true

RSpec.describe "storage", :core do
  def store(*readings) = reckon("storage", readings: readings.map { |at, celsius| { at: at, celsius: celsius } })

  it "reckons the worked example" do
    answer = store(["2026-02-01T00:00", 1], ["2026-03-03T00:00", 11], ["2026-03-06T00:00", 1])
    # 33 days at the mean of 2.5^x from 0 to 1; 65 % of them above 4.5 °C, by 3.25 degrees on the mean.
    expect(answer[:equivalent_days]).to be_within(1e-9).of(33 * 1.5 / Math.log(2.5))
    expect(answer[:warm_degree_hours]).to be_within(1e-9).of(33 * 24 * 0.65 * 3.25)
    expect(answer[:life_left_share])
      .to be_within(1e-9).of(1 - 33 * 1.5 / Math.log(2.5) / 180 - 33 * 24 * 0.65 * 3.25 / 3000)
    expect(answer[:frozen]).to be false
  end

  it "takes readings in order of time, and a zone as it is given" do
    one = [["2026-02-03T00:00", 1], ["2026-02-01T00:00", 1], ["2026-02-02T00:00", 11]]
    expect(store(*one)[:equivalent_days]).to be_within(1e-9).of(3 / Math.log(2.5))
    expect(store(["2026-02-01T00:00+02:00", 1], ["2026-02-01T22:00Z", 1])[:equivalent_days]).to be_within(1e-9).of(1.0)
  end

  it "ages, and is woken by warmth, and is never less than spent" do
    expect(store(["2026-02-01", 20], ["2026-02-21", 20])[:life_left_share]).to eq 0.0
    expect(store(["2026-02-01", 4.5], ["2026-02-11", 4.5])[:warm_degree_hours]).to eq 0.0
    expect(store(["2026-02-01", -2], ["2026-02-11", -2.1])[:frozen]).to be true
    expect(store(["2026-02-01", -2])[:frozen]).to be false
    expect(store).to include(equivalent_days: 0.0, life_left_share: 1.0)
  end

  it "is never younger for more warmth" do
    lives = (0..20).map { |celsius| store(["2026-02-01", celsius], ["2026-03-01", celsius])[:life_left_share] }
    expect(lives).to eq lives.sort.reverse
  end

  it "takes a straight line between readings: at one temperature it is the plain product" do
    same, near = [8, 8 + 1e-7].map { |celsius| store(["2026-02-01", 8], ["2026-02-11", celsius]) }
    expect(same[:equivalent_days]).to be_within(1e-9).of(10 * 2.5**0.7)
    expect(near[:equivalent_days]).to be_within(1e-5).of(same[:equivalent_days])
    expect(same[:warm_degree_hours]).to be_within(1e-9).of(240 * 3.5)
  end

  it "ages wood of a shorter life faster" do
    readings = [["2026-02-01", 1], ["2026-02-16", 1]].map { |at, celsius| { at: at, celsius: celsius } }
    lives = [240, 150].map { |days| reckon("storage", readings: readings, life_days: days)[:life_left_share] }
    expect(lives).to match [be_within(1e-9).of(1 - 15 / 240.0), be_within(1e-9).of(0.9)]
  end

  it "names each stretch that went unmeasured, from its first to its last reading" do
    gaps = store(["2026-01-01T00:00", 1], ["2026-01-03T00:00", 1], ["2026-01-06T00:00", 1], ["2026-01-06T12:00", 1],
                 ["2026-01-08T12:00", 1])[:gaps]
    expect(gaps.map { |gap| gap[:hours] }).to eq [120.0, 48.0]
  end

  it "goes on ageing where its thermometer fell silent, as warm as in the week before" do
    told = [["2026-02-01", 1], ["2026-02-11", 1], ["2026-02-18", 11]]
    readings = told.map { |at, celsius| { at: at, celsius: celsius } }
    at = ->(ends_at) { reckon("storage", readings: readings, ends_at: ends_at) }
    known = store(*told)
    silent = at["2026-02-28"]
    # Ten days at the mean of a straight line from 1 to 11 °C.
    expect(silent[:equivalent_days] - known[:equivalent_days]).to be_within(1e-9).of(10 * Math.sqrt(2.5))
    expect(silent[:warm_degree_hours] - known[:warm_degree_hours]).to be_within(1e-9).of(240 * 1.5)
    expect(silent[:silent_hours]).to eq 240.0
    expect(silent[:reasons].last).to eq(code: "storage_silent", hours: 240.0, celsius: 6.0)
    expect([at["2026-02-19"], at["2026-02-01"]]).to all(include(known.merge(silent_hours: 0.0)))
  end

  it "says what to do: use first, or that a day went unmeasured" do
    codes = ->(answer) { answer[:reasons].map { |each| each[:code] } }
    expect(codes[store(["2026-01-01", 1], ["2026-04-25", 1])]).to include("storage_use_first", "storage_gap")
    expect(codes[store(["2026-01-01T00:00", 9], ["2026-01-01T10:00", 9])]).to eq ["storage_too_warm"]
  end

  it "takes what was cut before its first reading to have lain just above freezing until then, from a day on" do
    readings = %w[2026-02-10T00:00Z 2026-02-20T00:00Z].map { |at| { at: at, celsius: 1.0 } }
    told = ->(cut) { reckon("storage", readings: readings, life_days: 100, starts_at: cut) }
    soon = [nil, "2026-02-10T00:00Z", "2026-02-09T00:00Z"].map(&told)
    expect(soon.map { |each| each.values_at(:equivalent_days, :unmeasured_hours) }).to all(eq([10.0, 0.0]))
    long = told["2026-01-11T00:00Z"]
    expect(long[:equivalent_days]).to be_within(1e-9).of(40)
    expect(long[:life_left_share]).to be_within(1e-9).of(0.6)
    expect(long[:reasons] - soon.first[:reasons]).to eq [{ code: "storage_unmeasured", hours: 720.0 }]
    # After a silence at its end, too.
    both = reckon("storage", readings: readings, life_days: 100, starts_at: "2026-01-11T00:00Z",
                             ends_at: "2026-03-02T00:00Z")
    expect(both.values_at(:equivalent_days, :unmeasured_hours, :silent_hours)).to eq [50.0, 720.0, 240.0]
  end
end
