# frozen_string_literal: true

RSpec.describe Vestry::Core::Tend::Climate, :core do
  START = Date.new(2026, 4, 1)
  BOOK = Vestry::Core::Rulebook.shipped

  def climate(count = 60, **changes)
    days = Array.new(count) { |i| { date: START + i, min_c: 6.0, max_c: 17.0, rain_mm: 3.0, gust_ms: 5.0 } }
    changes.fetch(:days, {}).each { |i, change| days[i] = days[i].merge(change) }
    described_class.new(days, BOOK)
  end

  it "counts heat from the grafting day itself, to today, and not beside them" do
    hot = climate(20, days: { 5 => { max_c: 30.0 }, 9 => { max_c: 31.0 } })
    expect(hot.heat(START + 5, START + 19)).to eq START + 5
    expect(hot.heat(START + 6, START + 19)).to eq START + 9
    expect([hot.heat(START + 6, START + 9), hot.heat(START + 6, START + 8), hot.heat(START + 10, START + 19)])
      .to eq [START + 9, nil, nil]
  end

  describe "the knitting day" do
    it "is what the callus reckoning says, from any day of the graft" do
      weather = Array.new(60) { |i| { date: START + i, min_c: 4.0 + i % 7, max_c: 14.0 + i % 9 } }
      whole = described_class.new(weather, BOOK)
      PropCheck.forall(PropCheck::Generators.choose(0..20),
                       PropCheck::Generators.one_of(*%w[apple walnut
                                                        peach].map { |name| PropCheck::Generators
                                                            .constant(name) })) do |from, species|
        made = START + from
        alone = Vestry::Core::Slip::Callus.call(species: species, days: weather.drop(from))
        told = whole.knit(species, made, START + 59)
        raise "knit apart: #{told} #{alone[:knit_on]}" if alone[:knit_on] && told[:on] != alone[:knit_on]
        raise "not told as temperature" if alone[:knit_on] && told[:basis] != "temperature"
      end
    end

    it "is carried on at the pace of the last fortnight while days are still to come" do
      told = climate(5).knit("apple", START, START + 5)
      expect(told[:basis]).to eq "temperature-so-far"
      expect(told[:on]).to eq climate(60).knit("apple", START, START + 59)[:on]
      expect(told[:share]).to be_within(1e-9).of(5 * 0.602917 / 10).or be_between(0.29, 0.31)
    end

    it "is the calendar's where no weather is known, or none since the graft, or only cold" do
      usual = START + 21
      expect(described_class.new([], BOOK).knit("apple", START, START + 9))
        .to eq(on: usual, basis: "calendar", share: nil)
      expect(climate(5).knit("apple", START + 30, START + 40)[:basis]).to eq "calendar"
      frozen = described_class.new(Array.new(9) { |i| { date: START + i, min_c: -9.0, max_c: 0.0 } }, BOOK)
      expect(frozen.knit("apple", START, START + 8)[:on]).to eq usual
    end

    it "is guessed over some days of which nothing is known, and by the calendar over many" do
      whole = climate(60).knit("apple", START, START + 59)
      days = climate(60).instance_variable_get(:@days)
      without = lambda do |gap|
        described_class.new(days.reject { |day| gap.cover?(day[:date]) }, BOOK).knit("apple", START, START + 59)
      end
      short, long, late = [START + 4..START + 10, START + 2..START + 20, START - 1..START + 15].map(&without)
      expect([short[:basis], (short[:on] - whole[:on]).abs <= 2]).to eq ["temperature", true]
      expect([long, late].map { |told| told.slice(:basis, :on) })
        .to eq [{ basis: "calendar", on: START + BOOK.value("species.apple.knit_days") }] * 2
      # What is asked before the silence is over is carried on from where it began.
      expect(without[START + 6..START + 59][:basis]).to eq "temperature-so-far"
    end

    it "comes sooner under a cover, and does not see beyond today" do
      warm, bare = climate.knit("apple", START, START + 59, offset_c: 3.0), climate.knit("apple", START, START + 59)
      expect(warm[:on]).to be < bare[:on]
      expect(climate.knit("apple", START, START + 3)[:basis]).to eq "temperature-so-far"
    end
  end

  it "tells the first heat since a day, and none to come" do
    hot = climate(days: { 10 => { max_c: 31.0 }, 40 => { max_c: 35.0 } })
    expect([hot.heat(START, START + 59), hot.heat(START + 11, START + 59), hot.heat(START, START + 9),
            hot.heat(START + 41, START + 59)]).to eq [START + 10, START + 40, nil, nil]
  end

  it "tells the last gale within the days it is still worth looking" do
    blown = climate(days: { 10 => { gust_ms: 15.0 }, 20 => { gust_ms: 22.0 }, 30 => { gust_ms: nil } })
    expect([blown.gale(START, START + 12, within: 10), blown.gale(START, START + 25, within: 10),
            blown.gale(START, START + 31, within: 10), blown.gale(START + 21, START + 25, within: 10)])
              .to eq [START + 10, START + 20, nil, nil]
  end

  it "tells the last hard frost" do
    cold = climate(days: { 12 => { min_c: -2.0 }, 13 => { min_c: -1.9 } })
    expect([cold.frost(START, START + 15, within: 7), cold.frost(START, START + 19, within: 7),
            cold.frost(START, START + 20, within: 7), cold.frost(START + 13, START + 15, within: 7)])
              .to eq [START + 12, START + 12, nil, nil]
  end

  it "tells the last of those frosts that found soft growth" do
    cold = climate(days: { 12 => { min_c: -2.0 }, 14 => { min_c: -3.0 }, 15 => { min_c: 1.0 } })
    soft = ->(days) { cold.frost(START, START + 16, within: 7) { |date| days.include?((date - START).to_i) } }
    expect([soft[[12, 14]], soft[[12, 13]], soft[[15]]]).to eq [START + 14, START + 12, nil]
  end

  describe "a dry spell" do
    def dry(rain, today = 59, from: 0)
      described_class.new(rain.each_with_index.map { |mm, i| { date: START + i, min_c: 6.0, max_c: 17.0,
          rain_mm: mm } }, BOOK).dry(START + from, START + today)
    end

    it "has lasted once three weeks together brought too little" do
      rain = [4.0] * 30 + [0.0] * 30
      expect(dry(rain)).to eq START + 48
      # Of a day of which it is not known it is not taken to have rained.
      expect(dry([4.0] * 30 + [0.0, nil] * 15)).to eq START + 48
      expect([dry(rain, 47), dry([4.0] * 60), dry([0.4] * 60), dry([0.5] * 60)]).to eq [nil, nil, START + 20, nil]
    end

    it "ends with rain, begins no sooner than the graft, and is not told of where rain is not known" do
      expect(dry([0.0] * 40 + [12.0] + [0.0] * 10, 50)).to be_nil
      expect([dry([0.0] * 60, 59, from: 30), dry([0.0] * 60, 59, from: 60)]).to eq [START + 30, nil]
      expect(dry([nil] * 60)).to be_nil
    end
  end
end

RSpec.describe Vestry::Core::Tend::Rules, :core do
  let(:today) { Date.new(2026, 6, 1) }
  let(:event) { { "began" => [Date.new(2026, 5, 20), "fact"], "ends" => [Date.new(2026, 7, 1), "calendar"] } }

  def tasks(rules, done: [], facts: {}, states: [], answered: ->(_, _) {}, on: today)
    usual = { "after" => "began", "opens" => 0, "due" => 5, "closes" => 10 }
    needed = ->(rule) { rule["needs"].nil? || (rule["needs"] & states).any? }
    all = rules.transform_keys(&:to_s).transform_values { |rule| usual.merge(rule) }
    described_class.new(all, done: done, today: on, event: event.method(:[]), fact: facts.method(:[]), needed: needed,
                        answered: answered).tasks
  end

  def told(*all) = all.map { |task| [task[:key], task[:status], task[:due_on].strftime("%m-%d")] }

  it "dates a task from its event, and tells how it stands" do
    standing = { 19 => "ahead", 20 => "open", 25 => "open", 26 => "late", 30 => "late", 31 => "passed" }
    standing.each do |day, status|
      expect([day, *told(*tasks({ look: {} }, on: Date.new(2026, 5, day)))]).to eq [day, ["look", status, "05-25"]]
    end
    expect(tasks({ look: { "after" => "never" } })).to eq []
  end

  it "holds for facts and states alone" do
    rules = { a: { "when" => { "cover" => %w[film] } }, b: { "needs" => %w[growing] } }
    expect(told(*tasks(rules))).to eq []
    expect(told(*tasks(rules, facts: { "cover" => "film" }, states: %w[growing])).map(&:first)).to eq %w[a b]
    # What somebody settled is told, whatever has changed since.
    expect(told(*tasks(rules, done: [{ key: "b", on: today, what: "done" }]))).to eq [%w[b done 05-25]]
  end

  it "comes round again from the day it was done, or once it has passed by, until its end" do
    round = { rub: { "every" => 7, "until" => "ends", "closes" => 6 } }
    expect(told(*tasks(round, on: Date.new(2026, 5, 22)))).to eq [["rub:1", "open", "05-25"]]
    expect(told(*tasks(round, done: [{ key: "rub:1", on: Date.new(2026, 5, 22), what: "done" }],
                       on: Date.new(2026, 5, 23)))).to eq [["rub:1", "done", "05-25"], ["rub:2", "ahead", "06-03"]]
    expect(told(*tasks(round)).map(&:first)).to eq %w[rub:1 rub:2]
    expect(tasks(round, on: Date.new(2027, 1, 1)).map { |task| task[:opens_on] }).to all(be <= Date.new(2026, 7, 1))
  end

  it "is told apart by its day where it comes with each event, and done by what was seen" do
    expect(told(*tasks({ gale: { "dated" => true } }))).to eq [["gale:2026-05-20", "passed", "05-25"]]
    seen = ->(what, from) { what == "look" && from <= Date.new(2026, 5, 21) ? Date.new(2026, 5, 21) : nil }
    done = tasks({ look: { "answered-by" => "look" } }, answered: seen).first
    expect([done[:status], done[:reasons].first]).to eq ["done", { code: "care_answered", on: Date.new(2026, 5, 21) }]
  end

  it "moves what is put off, and never closes it sooner" do
    off = tasks({ look: {} }, done: [{ key: "look", on: today, what: "put-off", until: Date.new(2026, 6, 9),
                                       why: "mud" }]).first
    expect(off.values_at(:opens_on, :due_on, :closes_on, :status))
      .to eq [Date.new(2026, 6, 9), Date.new(2026, 6, 9), Date.new(2026, 6, 14), "ahead"]
    expect(off[:reasons].first).to include(code: "care_put_off", why: "mud")
  end

  it "stands in order of the day it falls due" do
    expect(tasks({ late: { "due" => 9 }, soon: { "due" => 1 }, mid: { "due" => 4 } }).map { |task| task[:key] })
      .to eq %w[soon mid late]
  end
end
