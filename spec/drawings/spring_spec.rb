# frozen_string_literal: true

RSpec.describe Vestry::Drawings::Spring do
  let(:from) { Date.new(2026, 2, 1) }
  let(:apple) do
    described_class::Kind.new(name: "Apple", from: from + 60, even: from + 70, sure: from + 80, closes: from + 150,
                              slips: false)
  end

  def spring(kinds: [apple], days: [])
    described_class.new(from, from + 200, today: from + 50, kinds: kinds, days: days, units: "metric")
  end

  def weather(rain: 0.0, gust: 2.0)
    (0..3).map { |i| { date: from + i, min_c: 0.0, max_c: 10.0, rain_mm: rain, gust_ms: gust } }
  end

  it "puts a kind's fan, its even day and its open time on one axis" do
    row = spring.rows.first
    expect(row.values_at(:fan, :even, :open)).to eq [[30.0, 10.0], 35.0, [40.0, 35.0]]
    expect(row[:spoken]).to eq "Apple: from 2 Apr, likely by 12 Apr, closes 1 Jul"
  end

  it "writes beside the bar where there is room on the narrowest page, else up to the edge" do
    early = apple.dup.tap { |kind| kind.sure = from + 56 }
    slips = apple.dup.tap { |kind| kind.slips = true }
    late = slips.dup.tap { |kind| kind.from = from + 122 }
    expect(spring(kinds: [apple, early, slips, late]).rows.map { |row| row[:at] })
      .to eq [[100, -6, "end"], [28.0, 8, "start"], [30.0, 8, "start"], [100, -6, "end"]]
  end

  it "has no fan where bark slips already" do
    slips = apple.dup.tap { |kind| kind.slips = true }
    expect(spring(kinds: [slips]).rows.first.values_at(:fan, :open, :words))
      .to eq [nil, [30.0, 45.0], "slips, closes 1 Jul"]
  end

  it "draws weather as one ribbon, with the rain that wets and the gusts that move a tree" do
    wet = spring(days: weather(rain: 5.0, gust: 10.0))
    expect([wet.rain.size, wet.gusts.size, wet.rain.first[:long]]).to eq [4, 4, 8.0]
    dry = spring(days: weather(rain: 0.4, gust: 9.9))
    expect([dry.rain, dry.gusts, dry.weather?]).to eq [[], [], true]
    # 10 degrees above, 0 below, of -8 to 34 over 96: 54.9 and 77.7 from the top.
    expect(wet.band).to start_with("M0.0 54.9L").and end_with("L0.0 77.7Z")
    expect(spring.weather?).to be false
  end
end

RSpec.describe Vestry::Drawings::ShelfBundle do
  def bundle(*sticks, life: 0.5) = described_class.new(sticks, life: life, pencil_mm: 8.0, title: "Wood 1")

  it "draws each stick at its size, the thick ones below, and unmeasured ones like a pencil" do
    discs = bundle(6.0, nil, 10.0).discs
    expect(discs.map { |disc| disc.values_at(:r, :measured) }).to eq [[12.0, true], [9.6, false], [7.2, true]]
    many = bundle(*[10.0] * 15).discs
    expect(many.map { |disc| disc[:y] }.uniq.size).to eq 2
  end

  it "burns its life down from the right" do
    expect([bundle(8.0, life: 0.5).left, bundle(8.0, life: 1.2).left, bundle(8.0, life: nil).life?])
      .to eq [125.0, 250.0, false]
  end
end
