# frozen_string_literal: true

RSpec.describe "storage", :core do
  def store(*readings) = reckon("storage", readings: readings.map { |at, celsius| { at: at, celsius: celsius } })

  it "reckons the worked example" do
    answer = store(["2026-02-01T00:00", 1], ["2026-03-03T00:00", 11], ["2026-03-06T00:00", 1])
    expect(answer).to include(equivalent_days: 37.5, warm_degree_hours: 468.0, frozen: false)
    expect(answer[:life_left_share]).to be_within(1e-6).of(0.791667)
  end

  it "takes readings in order of time, and a zone as it is given" do
    one = [["2026-02-03T00:00", 1], ["2026-02-01T00:00", 1], ["2026-02-02T00:00", 11]]
    expect(store(*one)[:equivalent_days]).to be_within(1e-9).of(3.5)
    expect(store(["2026-02-01T00:00+02:00", 1], ["2026-02-01T22:00Z", 1])[:equivalent_days]).to be_within(1e-9).of(1.0)
  end

  it "ages by the lesser of age and warmth, and never below nothing" do
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

  it "says what to do: use first, or that a day went unmeasured" do
    codes = ->(answer) { answer[:reasons].map { |each| each[:code] } }
    expect(codes[store(["2026-01-01", 1], ["2026-04-25", 1])]).to include("storage_use_first", "storage_gap")
    expect(codes[store(["2026-01-01T00:00", 9], ["2026-01-01T10:00", 9])]).to eq ["storage_too_warm"]
  end
end
