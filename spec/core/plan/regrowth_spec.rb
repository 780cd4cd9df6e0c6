# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::Regrowth do
  it "tells ten seasons where no number is said, and as many as are" do
    told = described_class.call(stub_mm: 60.0, shoot_mm: 900.0)
    expect(told.values.map(&:size)).to eq [10, 10]
    expect(described_class.call(stub_mm: 60.0, shoot_mm: 900.0, seasons: 3)[:shares].size).to eq 3
    # 2.5 + 0.0095 x 900, and 2 x 6 mm more each season.
    expect(told[:diameters_mm].first(2).map { |mm| mm.round(2) }).to eq [11.05, 23.05]
  end

  it "adds the year's wood that the rulebook says, or is said" do
    wide = Vestry::Core::Rulebook.shipped.overruled("reckoning.regrowth.ring" => { "value" => 8 })
    told = lambda do |**more|
      described_class.call(stub_mm: 60.0, shoot_mm: 900.0, seasons: 2, **more)[:diameters_mm].map { |mm| mm.round(2) }
    end
    expect([told[rulebook: wide], told[ring_mm: 5.0, rulebook: wide]]).to eq [[11.05, 27.05], [11.05, 21.05]]
  end

  it "goes by what was measured: from one reading to the next, and on by the ring of the last two" do
    told = lambda do |*seen|
      measured = seen.map { |season, mm| { season: season, mm: mm.to_f } }
      described_class.call(stub_mm: 60.0, shoot_mm: 900.0, seasons: 6, measured: measured)[:diameters_mm]
        .map { |mm| mm.round(2) }
    end
    expect(told[[1, 20]]).to eq [11.05, 20, 32, 44, 56, 68]
    expect(told[[3, 36], [1, 20]]).to eq [11.05, 20, 28, 36, 44, 52]
    # A graft that was cut back to one stick does not shrink on.
    expect(told[[0, 20], [1, 14]]).to eq [20, 14, 26, 38, 50, 62]
    shares = described_class.call(stub_mm: 60.0, shoot_mm: 900.0, seasons: 4,
                                  measured: [{ season: 1, mm: 30.0 }, { season: 3, mm: 90.0 }])[:shares]
    expect(shares.map { |share| share.round(3) }).to eq [0.034, 0.25, 1.0, 1.0]
  end

  it "tells a year's wood by the last two readings, and none by one" do
    read = ->(*seen) { described_class.ring(seen.map { |season, mm| { season: season, mm: mm } }) }
    expect([read[], read[[1, 20]], read[[0, 4], [1, 20], [3, 36]], read[[1, 20], [2, 10]], read[[1, 20], [1, 30]]])
      .to eq [nil, nil, 4.0, nil, nil]
  end

  it "has grown nothing before it was made" do
    book = Vestry::Core::Rulebook.shipped
    limb = { stub_mm: 23.05, shoot_mm: 900.0 }
    expect([-1, 0, 1, 9].map { |age| described_class.at(age, limb, rulebook: book)[:share].round(4) })
      .to eq [0.0, 0.2298, 1.0, 1.0]
  end
end
