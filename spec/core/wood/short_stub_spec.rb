# frozen_string_literal: true

RSpec.describe Vestry::Core::Wood::ShortStub do
  let(:book) { Vestry::Core::Rulebook.shipped }
  # A limb of 30 mm that is cut 900 mm from its fork.
  let(:stub) do
    { technique: "four-flap", stub_mm: 25.95, cut_mm: 900.0, short: 2, given: 0, base_mm: 30.0, length_mm: 2000.0,
      cut_point: -> { { feasible: true, from_mm: 300.0, to_mm: 1500.0 } },
      asked: { stock_mm: 25.95, slipping: true, species: "pecan", school: "covered-inlay", own: [] } }
  end

  def codes(own: [], others: [], of: stub)
    described_class.ways(of, own: own, others: others, rulebook: book).map { |way| way[:code] }
  end

  it "asks for as many more as the stub takes where nothing is over" do
    expect(described_class.ways(stub, own: [], others: [], rulebook: book))
      .to eq [{ code: "match_more_wood", sticks: 2 }]
  end

  it "cuts where the limb is as thick as a stick wants, nearest to the planned cut, and only inside the limb's range" do
    near, far = { label: "1·1", diameter_mm: 25.0 }, { label: "1·2", diameter_mm: 26.5 }
    way = described_class.ways(stub, own: [far, near], others: [], rulebook: book).first
    taper = book.value("reckoning.cut.taper")
    wanted = 25.0 / (book.value("methods.four-flap.scion_ideal").sum / 2.0)
    expect(way).to include(code: "match_cut_elsewhere", stick: "1·1", stock_mm: be_within(1e-9).of(wanted),
                           at_mm: be_within(1e-6).of((30.0 - wanted) / (taper * 30.0 / 2000)))
    closed = stub.merge(cut_point: -> { { feasible: false } })
    expect(codes(own: [near], of: closed)).not_to include("match_cut_elsewhere")
    narrow = stub.merge(cut_point: -> { { feasible: true, from_mm: 1400.0, to_mm: 1500.0 } })
    expect(codes(own: [near], of: narrow)).not_to include("match_cut_elsewhere")
  end

  it "offers no other place to a method that takes any stick" do
    expect(codes(own: [{ label: "1·1", diameter_mm: 26.5 }], of: stub.merge(technique: "bark")))
      .not_to include("match_cut_elsewhere")
  end

  it "offers another variety's stick only where it lives on this stock and fits" do
    other = { label: "2·1", diameter_mm: 27.9, variety: "Evensong", grows: "good" }
    expect(codes(others: [other])).to eq %w[match_other_variety match_more_wood]
    expect(codes(others: [other.merge(grows: "poor")])).to eq %w[match_more_wood]
    expect(codes(others: [other.merge(diameter_mm: 90.0)])).to eq %w[match_more_wood]
  end

  it "makes do with the sticks it has, but not with one alone on a wide stub, and mixes no varieties" do
    other = { label: "2·1", diameter_mm: 27.0, variety: "Evensong", grows: "good" }
    half = stub.merge(technique: "rind", short: 1, given: 1)
    expect(codes(of: half.merge(stub_mm: 90.0), others: [other])).to eq %w[match_fewer match_more_wood]
    expect(codes(of: half.merge(stub_mm: 90.1), others: [other])).to eq %w[match_more_wood]
    expect(codes(of: half.merge(stub_mm: 110.0, given: 2))).to eq %w[match_fewer match_more_wood]
  end

  it "never offers the method that the stub has already" do
    way = described_class.ways(stub, own: [{ label: "1·1", diameter_mm: 12.0 }], others: [], rulebook: book)
      .find { |each| each[:code] == "match_other_method" }
    expect(way).to include(stick: "1·1", diameter_mm: 12.0)
    expect(way[:method]).not_to eq "four-flap"
  end
end
