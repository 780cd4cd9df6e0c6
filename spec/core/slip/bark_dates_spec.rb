# frozen_string_literal: true

RSpec.describe Vestry::Core::Slip::BarkDates do
  let(:book) { Vestry::Core::Rulebook.shipped }
  let(:today) { Date.new(2026, 4, 20) }

  it "goes by the ordinary day: come by then, else spread about it" do
    expect(described_class.by_calendar(today, today, book))
      .to eq(accumulated_dd: nil, reached_on: today, p10: nil, p50: nil, p90: nil, basis: "calendar")
    expect(described_class.by_calendar(today + 1, today, book))
      .to include(reached_on: nil, p10: today - 9, p50: today + 1, p90: today + 11)
  end

  it "believes a cut that did not lift against the reckoning, and leaves alone what it does not speak against" do
    ahead = { reached_on: nil, p10: today + 2, p50: today + 6, p90: today + 9, basis: "weather" }
    expect(described_class.not_before(ahead, today, today + 5, book)).to eq ahead
    expect(described_class.not_before(ahead, today + 1, today + 5, book)).to eq ahead
    expect(described_class.not_before(ahead, today + 5, today + 5, book))
      .to include(p10: today + 6, p50: today + 6, p90: today + 9, basis: "seen")
    come = { reached_on: today - 3, p10: nil, p50: nil, p90: nil, basis: "weather" }
    expect(described_class.not_before(come, today, today + 3, book))
      .to eq(reached_on: nil, p10: today + 1, p50: today + 4, p90: today + 9, basis: "seen")
  end

  it "takes bark that did not lift to have come once it is as likely as not since" do
    come = { reached_on: today - 3, p10: nil, p50: nil, p90: nil, basis: "weather" }
    expect(described_class.not_before(come, today, today + 4, book))
      .to eq(reached_on: today + 4, p10: nil, p50: nil, p90: nil, basis: "weather")
    ahead = { reached_on: nil, p10: today - 3, p50: today + 3, p90: today + 9, basis: "weather" }
    expect(described_class.not_before(ahead, today, today + 4, book)).to include(reached_on: nil, p50: today + 3)
  end

  it "closes bark by its kind, and no sooner than a week after it lifted, unless it was seen to lift no more" do
    closes = ->(lifted, closed) { described_class.closes(today, lifted, closed, book) }
    expect([closes[nil, nil], closes[today - 8, nil], closes[today - 6, nil], closes[today + 3, nil],
            closes[today - 30, today - 2], closes[today + 1, today + 3]])
      .to eq [today, today, today + 1, today + 10, today - 3, today + 2]
  end

  it "puts off bark in dry soil: what is to come, and what came in the last days" do
    none = { reached_on: nil, p10: nil, p50: nil, p90: nil }
    dry = ->(**dates) { described_class.in_dry_soil({ **none, **dates }, today, book) }
    expect(dry[p10: today + 2, p50: today + 6]).to eq(reached_on: nil, p10: today + 7, p50: today + 11, p90: nil)
    expect(dry[reached_on: today - 5]).to include(reached_on: today - 5, p50: nil)
    expect(dry[reached_on: today - 4]).to eq(reached_on: nil, p10: today + 1, p50: today + 1, p90: today + 6)
  end

  it "closes bark a fortnight early in dry soil, where it is soon to close" do
    closes = ->(day) { described_class.closes_dry(day, today, book) }
    expect([today + 36, today + 35, today + 5, today - 1].map(&closes)).to eq [today + 36, today + 21, today, today - 1]
  end

  it "comes back at once where it has come, else when it is as likely as not, and some days after a cut" do
    back = ->(reached, even, cut) { described_class.come_back(reached, even, cut, today, book) }
    expect(back[today - 5, nil, nil]).to eq today
    expect(back[nil, today + 4, nil]).to eq today + 4
    expect(back[nil, today - 4, nil]).to eq today
    expect(back[nil, nil, nil]).to eq today
    expect(back[today - 5, nil, today - 1]).to eq today + 2
    expect(back[nil, today + 9, today - 1]).to eq today + 9
  end

  it "draws a tree's habit in towards its kind's while it was seen seldom" do
    seen = [[1, "apple", 100], [1, "apple", 100], [2, "apple", 130], [3, "pear", 90]]
      .map { |tree, species, dd| { tree: tree, species: species, dd: dd.to_f } }
    habits = described_class.habits(seen, book)
    # The mean is 110; two springs of ten early weigh as two of four, one of twenty late as one of three.
    expect(habits.transform_values { |_, dd| dd.round(6) }).to eq(1 => -5.0, 2 => (20 / 3.0).round(6), 3 => 0.0)
    expect(habits.transform_values(&:first)).to eq(1 => "apple", 2 => "apple", 3 => "pear")
  end

  it "closes again on the day before it was found fast in late summer" do
    from = Date.new(2026, 8, 1)
    look = ->(day, slipping = nil, closed = false) { { on: from + day, slipping: slipping, closed: closed } }
    told = ->(*looks) { described_class.closes_again(looks, from)&.-(from)&.to_i }
    # Fast in June, on the very day, by a cut, by its word; looked at without a cut.
    expect([told[], told[look[-40, false, true]], told[look[0, false]], told[look[3, nil, true]], told[look[5]]])
      .to eq [nil, nil, -1, 2, nil]
    # Twice; lifting since; fast again after that.
    expect([told[look[3, false], look[9, false]], told[look[3, false], look[9, true]],
            told[look[3, false], look[9, true], look[12], look[14, nil, true]]]).to eq [2, nil, 13]
  end
end
