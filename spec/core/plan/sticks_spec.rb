# frozen_string_literal: true

RSpec.describe "sticks" do
  def sticks(**input) = reckon("sticks", { wood_diameter_mm: 58, practice: "ring", rise_deg: 75 }.merge(input))

  it "works out the example" do
    expect(sticks(flat_deg: 40, wind_from_deg: 240)).to include(count: 3, bearings_deg: [224.0, 344.0, 104.0])
  end

  it "gives a pair only to a stub with room for two" do
    expect([39.9, 40].map { |mm| sticks(wood_diameter_mm: mm, practice: "pair")[:count] }).to eq [1, 2]
    expect(sticks(practice: "single")[:count]).to eq 1
  end

  it "keeps a ring between one and five" do
    expect([3, 25, 25.6, 500].map { |mm| sticks(wood_diameter_mm: mm)[:count] }).to eq [1, 1, 2, 5]
  end

  it "starts at north when nothing tells one face from another" do
    expect(sticks(practice: "single")[:bearings_deg]).to eq [0.0]
  end

  it "sets a leaning limb's sticks about its upper side" do
    expect((1..5).map { |count| sticks(rise_deg: 30, wood_diameter_mm: count * 25)[:clock_deg] })
      .to eq [[0], [-45, 45], [-75, 0, 75], [-90, -30, 30, 90], [-100, -50, 0, 50, 100]]
  end

  it "counts a face that is flat on one side only on that side" do
    both = { practice: "single", flat_deg: 270 }
    expect(sticks(**both)[:bearings_deg]).to eq [90.0]
    expect(sticks(**both, flat_one_side: true)[:bearings_deg]).to eq [270.0]
    expect(sticks(**both, flat_one_side: true, wind_from_deg: 60)[:bearings_deg].first).to be_between(245, 285)
  end

  it "sets two in a split at its ends, level across a leaning stub, and one on the upper side" do
    expect(sticks(rise_deg: 30, wood_diameter_mm: 50, method: "cleft", flat_deg: 180, bearing_deg: 90)[:clock_deg])
      .to eq [-90, 90]
    expect(sticks(rise_deg: 30, wood_diameter_mm: 50, method: "cleft", practice: "single")[:clock_deg]).to eq [0]
    upright = sticks(rise_deg: 75, wood_diameter_mm: 50, method: "cleft", flat_deg: 40)[:bearings_deg]
    expect((upright[1] - upright[0]).abs).to eq 180
  end

  it "turns a leaning limb's sticks to its flat face, none past the side and none for a face underneath" do
    east = { rise_deg: 30, bearing_deg: 90, flat_one_side: true }
    expect(sticks(**east, practice: "single", flat_deg: 180)[:clock_deg]).to eq [-45]
    expect(sticks(**east, practice: "single", flat_deg: 0)[:clock_deg]).to eq [45]
    expect(sticks(**east, practice: "single", flat_deg: 270)[:clock_deg]).to eq [0]
    expect(sticks(**east, practice: "single", flat_deg: 90)[:clock_deg]).to eq [0]
    expect(sticks(**east, wood_diameter_mm: 75, flat_deg: 0)[:clock_deg]).to eq [-60, 15, 90]
    expect(sticks(**east, wood_diameter_mm: 125, flat_deg: 0)[:clock_deg]).to eq [-100, -50, 0, 50, 100]
  end

  it "refuses a bearing outside the compass and an unknown practice" do
    expect(refusal("sticks", wood_diameter_mm: 58, practice: "ring", rise_deg: 75, flat_deg: 360).field)
      .to eq "flat_deg"
    expect(refusal("sticks", wood_diameter_mm: 58, practice: "heap", rise_deg: 75).field).to eq "practice"
  end

  it "proposes a school's own habit, and never one stick alone where one side of the stub would die back" do
    propose = ->(*asked, **more) { Vestry::Core::Plan::Sticks.proposed(*asked, **more) }
    expect([propose["single", 90.0], propose["single", 90.5], propose["single", 40.0, method: "inlay"]])
      .to eq %w[single pair single]
    expect(%w[inlay four-flap].map { |method| propose["single", 120.0, method: method] }).to eq %w[pair single]
    expect([propose["pair", 30.0], propose["ring", 120.0]]).to eq %w[pair ring]
  end
end
