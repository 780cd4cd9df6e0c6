# frozen_string_literal: true

RSpec.describe "care" do
  let(:graft) { { grafted_on: "2026-04-20", method: "rind", species: "apple", sticks: 3 } }

  def care(today, school: "waxed-rind", **facts)
    reckon("care", { graft: graft, school: school, today: today }.merge(facts))
  end

  def task(answer, key) = answer[:tasks].find { |each| each[:key] == key }
  def dates(answer, key) = task(answer, key).values_at(:opens_on, :due_on, :closes_on).map(&:iso8601)
  def keys(answer) = answer[:tasks].map { |each| each[:key] }

  it "dates the first weeks from the grafting day and the ordinary knitting time" do
    answer = care("2026-04-21")
    expect(answer).to include(state: "knitting", knit_on: Date.new(2026, 5, 11), knit_basis: "calendar")
    expect(dates(answer, "wax-check")).to eq %w[2026-04-22 2026-04-25 2026-05-04]
    expect(dates(answer, "first-look")).to eq %w[2026-05-11 2026-05-18 2026-06-08]
    expect(dates(answer, "slit-tape")).to eq %w[2026-06-19 2026-07-19 2026-11-06]
    expect(dates(answer, "tally")).to eq %w[2026-09-15 2026-10-30 2026-11-29]
  end

  it "takes the first look when temperatures say callus has knit" do
    weather = Array.new(60) { |i| { date: (Date.new(2026, 4, 20) + i).iso8601, min_c: 12, max_c: 24 } }
    answer = care("2026-05-18", weather: weather)
    expect(answer[:knit_basis]).to eq "temperature"
    expect(answer[:knit_on]).to be < Date.new(2026, 5, 11)
    expect(task(answer, "first-look")[:opens_on]).to eq answer[:knit_on]
  end

  it "looks ahead at the pace of the last fortnight while it is still knitting" do
    weather = Array.new(5) { |i| { date: (Date.new(2026, 4, 20) + i).iso8601, min_c: 6, max_c: 17 } }
    expect(care("2026-04-25", weather: weather)).to include(knit_basis: "temperature-so-far",
        knit_on: Date.new(2026, 5, 6))
  end

  it "looks ahead by the same days of earlier years, where there are some" do
    day = ->(on, min, max) { { date: on.iso8601, min_c: min, max_c: max } }
    weather = Array.new(5) { |i| day[Date.new(2026, 4, 20) + i, 2, 9] }
    # At this pace by far too late; at that of the years before, half of it of 2025 and half of 2024 (see above).
    pace = care("2026-04-25", weather: weather)[:knit_on]
    mild = [2024, 2025].flat_map { |year| Array.new(60) { |i| day[Date.new(year, 4, 20) + i, 6, 17] } }
    told = care("2026-04-25", weather: weather, earlier: mild)
    expect(told).to include(knit_basis: "temperature-so-far",
                            knit_on: be_between(Date.new(2026, 5, 8), Date.new(2026, 5, 12)))
    expect(pace).to be > told[:knit_on] + 20
    # Warmth of one of two years counts half, and a day that is in none goes by the pace.
    cold = Array.new(60) { |i| day[Date.new(2024, 4, 20) + i, -20, -10] } + mild.last(60)
    expect(care("2026-04-25", weather: weather, earlier: cold)[:knit_on]).to be > told[:knit_on] + 12
    gap = mild.reject { |each| each[:date].end_with?("-05-01", "-05-02") }
    expect(care("2026-04-25", weather: weather, earlier: gap)[:knit_on]).to be > told[:knit_on]
    # Its own year, and later ones, are none of the earlier.
    own = mild.map { |each| each.merge(date: (Date.iso8601(each[:date]) >> 24).iso8601) }
    expect(care("2026-04-25", weather: weather, earlier: own.first(60))[:knit_on]).to eq pace
  end

  it "sounds an alarm when buds move before callus can have knit" do
    answer = care("2026-05-02", observations: [{ on: "2026-05-01", buds: "swelling" }])
    expect(answer[:state]).to eq "false-start"
    expect(dates(answer, "false-start:1").first).to eq "2026-05-01"
  end

  it "asks for it to be opened when nothing moves, and drops that once it has taken" do
    expect(task(care("2026-05-26"), "open-if-still")).to include(status: "open", opens_on: Date.new(2026, 5, 25))
    expect(keys(care("2026-05-26", observations: [{ on: "2026-05-20", verdict: "took" }])))
      .not_to include "open-if-still"
  end

  it "turns to regrafting when it is dead" do
    answer = care("2026-06-03", observations: [{ on: "2026-06-01", verdict: "failed" }])
    expect(answer[:state]).to eq "failed"
    expect(keys(answer)).to eq %w[regraft regraft-bud regraft-spring]
    expect(dates(answer, "regraft")).to eq %w[2026-06-01 2026-06-11 2026-07-05]
  end

  it "believes a stick written off too soon when it is seen in leaf" do
    visits = [{ on: "2026-05-30", verdict: "failed" }, { on: "2026-06-15", buds: "leafing", verdict: "took" }]
    expect(care("2026-06-20", observations: visits)[:state]).to eq "growing"
  end

  it "opens the next round of stock shoots a fortnight after the last was done" do
    visits = [{ on: "2026-05-14", buds: "leafing" }]
    answer = care("2026-06-01", observations: visits, done: [{ key: "stock-shoots-later:1", on: "2026-05-28" }])
    expect(task(answer, "stock-shoots-later:1")[:status]).to eq "done"
    expect(task(answer, "stock-shoots-later:2")[:opens_on]).to eq Date.new(2026, 6, 11)
  end

  it "keeps what a person waived" do
    answer = care("2026-07-01", done: [{ key: "slit-tape", on: "2026-06-30", what: "waived" }])
    expect(task(answer, "slit-tape")[:status]).to eq "waived"
  end

  it "follows the school: film that perishes is never slit, a bag is taken off" do
    seen = [{ on: "2026-05-20", buds: "leafing" }]
    film, covered, waxed = %w[film-wrap covered-inlay waxed-rind].map do |school|
      keys(care("2026-06-01", school: school, observations: seen))
    end
    expect(film).not_to include "slit-tape"
    expect(covered).to include("uncover", "brace")
    expect(waxed).to include("wax-check", "shorten")
  end

  it "lets what was really used outrank the school" do
    answer = care("2026-06-01", graft: graft.merge(wrap: "film"))
    expect(keys(answer)).not_to include "slit-tape"
  end

  it "turns the calendar round in the south" do
    answer = care("2026-10-10", graft: graft.merge(grafted_on: "2026-10-08", southern: true))
    expect(dates(answer, "tally").first).to eq "2027-03-15"
    expect(dates(answer, "thin-ring").first).to eq "2027-06-15"
  end

  it "ignores visits that lie ahead of today" do
    expect(care("2026-05-01", observations: [{ on: "2026-05-20", verdict: "failed" }])[:state]).to eq "knitting"
  end

  it "gives every task a reason that names what it hangs on" do
    answer = care("2026-05-18")
    expect(answer[:tasks].map { |each| each[:reasons].map { |r| r[:code] } }).to all(include("care_after", "care_why"))
  end
end
