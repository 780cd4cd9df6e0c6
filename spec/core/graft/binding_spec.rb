# frozen_string_literal: true

RSpec.describe "tape, flaps and materials", :core do
  it "reckons tape as in the worked example" do
    answer = reckon("tape", diameter_mm: 60, wrap_mm: 80, tape_mm: 25, overlap: 0.5, passes: 2)
    expect(answer[:turns]).to be_within(1e-9).of(6.4)
    expect(answer[:length_mm]).to be_within(0.01).of(2418.04)
    expect(refusal("tape", diameter_mm: 60, wrap_mm: 80, tape_mm: 25, overlap: 1).field).to eq "overlap"
    lengths = [20, 40, 80].map do |d|
      reckon("tape", diameter_mm: d, wrap_mm: 80, tape_mm: 25, overlap: 0.5)[:length_mm]
    end
    expect(lengths).to eq lengths.sort
  end

  it "reckons flaps as in the worked example" do
    answer = reckon("flaps", flaps: 4, scion_mm: 16, stock_wood_mm: 15)
    expect(answer).to include(feasible: true, covered_share: 1.0, overlap_mm: 0.0, reaches_wood: true)
    expect(answer[:depth_mm]).to be_within(1e-5).of(1.83843)
    expect(answer[:flat_mm]).to be_within(1e-4).of(10.2049)
    expect(answer[:flap_mm]).to be_within(1e-4).of(11.7810)
  end

  it "says when flaps leave a face bare, or the stick is too thin to have faces; nine tenths covered and laps will " \
     "do" do
    expect(reckon("flaps", flaps: 4, scion_mm: 16, stock_wood_mm: 10)[:reasons].map { |each| each[:code] })
      .to eq ["flaps_bare"]
    expect(reckon("flaps", flaps: 4, scion_mm: 12, stock_wood_mm: 16)).to include(overlap_mm: be > 2, reasons: [])
    bare, enough = [11.6, 11.8].map { |wood| reckon("flaps", flaps: 4, scion_mm: 16, stock_wood_mm: wood) }
    expect([bare[:covered_share], enough[:covered_share]]).to match [be < 0.9, be > 0.9]
    expect([bare[:reasons].size, enough[:reasons].size]).to eq [1, 0]
    expect(reckon("flaps", flaps: 4, scion_mm: 1.5, stock_wood_mm: 10)).to include(feasible: false, depth_mm: nil)
    expect(reckon("flaps", flaps: 3, scion_mm: 8, stock_wood_mm: 8, bark_mm: 3)[:reaches_wood]).to be false
  end

  it "sums a day's materials by the school, with a spare tenth" do
    stubs = [{ method: "rind", stub_mm: 60, sticks: 2 }] * 10
    items = reckon("materials", stubs: stubs, school: "waxed-rind")[:items].to_h { |each| [each[:item], each] }
    expect(items.keys).to include("stretch-tape", "grafting-wax", "labels", "perch")
    expect(items["labels"]).to include(amount: 11, unit: "piece")
    one = reckon("tape", diameter_mm: 60, wrap_mm: 90, tape_mm: 25, overlap: 0.5, passes: 2)[:length_mm]
    expect(items["stretch-tape"][:amount]).to be_within(1e-6).of(one / 1000 * 10 * 1.1)
    expect(items["brush"][:amount]).to eq 1
    covered = reckon("materials", stubs: stubs, school: "covered-inlay")[:items].map { |each| each[:item] }
    expect(covered).to include("foil", "bag", "pins")
    expect(reckon("materials", stubs: [], school: "waxed-rind")[:items]).to eq []
  end

  it "finishes a stub of a tree that has a school of its own by that one" do
    stub = { method: "rind", stub_mm: 60, sticks: 2 }
    amounts = lambda do |school, *stubs|
      reckon("materials", stubs: stubs, school: school)[:items].to_h { |each| each.values_at(:item, :amount) }
    end
    own, other = amounts["waxed-rind", stub], amounts["covered-inlay", stub]
    mixed = amounts["waxed-rind", stub, stub.merge(school: "covered-inlay")]
    %w[grafting-wax wood-glue foil].each do |name|
      expect(mixed.fetch(name)).to be_within(1e-9).of(own.fetch(name, 0) + other.fetch(name, 0))
    end
    expect([own.key?("foil"), other.key?("grafting-wax")]).to eq [false, false]
    expect(amounts["covered-inlay", stub.merge(school: "waxed-rind")]).to eq own
  end

  it "carries a tool where something is made with it: pins' hammer for bark, what cleaves for a stub that is sawn" do
    items = lambda do |method, stub_mm, school|
      answer = Vestry::Core::Graft::Materials.reckon({ stubs: [{ method: method, stub_mm: stub_mm }], school: school })
      answer[:items].to_h { |each| each.values_at(:item, :amount) }
    end
    expect([["cleft", 35.0], ["cleft", 25.0], ["cleft", 24.0], ["bark", 60.0]]
      .map { |method, mm| items[method, mm, "film-wrap"]["cleaving-knife"] }).to eq [1, 1, nil, nil]
    expect([["bark", 60.0], ["cleft", 35.0]].map { |method, mm| items[method, mm, "covered-inlay"]["hammer"] })
      .to eq [1, nil]
  end
end
