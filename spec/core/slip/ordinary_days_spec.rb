# frozen_string_literal: true

RSpec.describe Vestry::Core::Slip::OrdinaryDays do
  let(:book) { Vestry::Core::Rulebook.shipped }
  let(:north) { Vestry::Core::Season.new(southern: false) }
  let(:south) { Vestry::Core::Season.new(southern: true) }

  it "has frost sooner toward the pole and up the hill, by whole degrees, and nowhere later" do
    first = lambda do |latitude, metres = 0|
      described_class.first_frost(Date.new(2026, 2, 1), north, [latitude, metres], book)
    end
    expect([first[50], first[50.9], first[49.1]]).to eq [Date.new(2026, 10, 20)] * 3
    # Three days a degree, and a day for each thirty metres.
    expect([first[60], first[50, 300], first[50, 29]])
      .to eq [Date.new(2026, 9, 20), Date.new(2026, 10, 10), Date.new(2026, 10, 20)]
    # Ten degrees nearer the equator take back as much as 900 metres add.
    expect([first[40], first[40, 900], first[40, 1200]])
      .to eq [Date.new(2026, 10, 20), Date.new(2026, 10, 20), Date.new(2026, 10, 10)]
    expect([-45, -60].map { |at| described_class.first_frost(Date.new(2026, 8, 1), south, [at, 0], book) })
      .to eq [Date.new(2027, 4, 20), Date.new(2027, 3, 21)]
  end

  it "lets wood sleep until the calendar's day, later where bark opens late, and not into its waking" do
    ends = lambda do |species, latitude, metres = 0|
      described_class.asleep_until(species, Date.new(2025, 12, 10), north, [latitude, metres], book)
    end
    expect(ends["plum", 50]).to eq Date.new(2026, 2, 20)
    expect([ends["apple", 60], ends["apple", 60, 300]]).to eq [Date.new(2026, 3, 19), Date.new(2026, 3, 29)]
    # Bark of almond opens on 23 March at 42 degrees, and on 11 February at 29: two weeks before that none sleeps.
    expect([ends["almond", 42], ends["almond", 29]]).to eq [Date.new(2026, 2, 20), Date.new(2026, 1, 29)]
    expect(ends["apple", 0]).to eq Date.new(2025, 12, 10)
    expect(ends["no-such-kind", 60]).to eq Date.new(2026, 2, 20)
    there = described_class.asleep_until("apple", Date.new(2026, 6, 10), south, [-60, 0], book)
    expect(there).to eq Date.new(2026, 9, 16)
  end
end
