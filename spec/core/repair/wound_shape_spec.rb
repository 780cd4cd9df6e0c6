# frozen_string_literal: true

RSpec.describe Vestry::Core::Repair::WoundShape do
  def wound(*rows)
    described_class.new(rows.map { |at, low, high| { bearing_deg: at.to_f, low_mm: low.to_f, high_mm: high.to_f } })
  end

  let(:one) { wound([80, 100, 100], [180, 100, 100], [230, 80, 240], [300, 100, 100]) }

  it "runs straight from reading to reading, and round the back" do
    expect(one.margins(205)).to eq [90.0, 170.0]
    expect(wound([350, 0, 100], [10, 20, 200]).margins(0)).to eq [10.0, 150.0]
  end

  it "is at a reading when it is a hair beside it" do
    [180.0, 180 - 1e-10, 180 + 1e-10].each do |bearing|
      expect(one.margins(bearing)).to match [be_within(1e-6).of(100), be_within(1e-6).of(100)]
    end
    expect(wound([0, 30, 90], [180, 50, 150]).margins(360 - 1e-10))
      .to match [be_within(1e-6).of(30), be_within(1e-6).of(90)]
  end

  it "has no wound where nothing was read, and steps where two readings share a bearing" do
    expect([wound.margins(12), wound.girdled_share, wound.extent]).to eq [[0.0, 0.0], 0.0, nil]
    expect(wound([0, 0, 100]).ring?).to be true
  end

  it "is a ring, a stretch across north, or none, by where bark is" do
    expect(wound([0, 50, 150], [180, 60, 200]).runs).to eq []
    across = wound([60, 100, 100], [300, 100, 100], [0, 40, 240])
    expect(across.runs).to eq [[301, 420]]
    expect(across.girdled_share).to be_within(1e-9).of(119 / 360.0)
    expect(wound([0, 100, 100], [180, 90, 90]).open_degrees).to eq []
  end

  it "is carried whole by scions all along it, and half by those of one half" do
    ring = wound([0, 50, 150], [180, 60, 200])
    expect(ring.carried([0, 60, 120, 180, 240, 300], 600, 100)).to eq 1.0
    expect(ring.carried([30, 90, 150], 600, 100)).to be_within(0.01).of(0.5)
    expect(ring.carried([], 600, 100)).to eq 0.0
  end
end
