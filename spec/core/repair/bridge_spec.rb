# frozen_string_literal: true

RSpec.describe "bridge", :core do
  def wound(*readings) = readings.map { |bearing, low, high| { bearing_deg: bearing, low_mm: low, high_mm: high } }
  def bridge(wound, girth: 300, **more) = reckon("bridge", girth_mm: girth, wound: wound, **more)

  EXAMPLE = [[0, 100, 100], [90, 60, 180], [180, 40, 260], [270, 80, 200]].freeze

  it "reckons the worked example" do
    answer = bridge(wound(*EXAMPLE))
    expect(answer[:girdled_share]).to be_within(1e-5).of(0.99722)
    expect(answer.values_at(:verdict, :count, :runs)).to eq ["needed", 5, [[1, 360]]]
    second = answer[:scions][1]
    expect([second[:bearing_deg], second[:gap_mm], second[:length_mm]].map { |each| each.round(3) })
      .to eq [108.7, 140.778, 236.184]
  end

  it "starts a full ring where it is narrowest and goes evenly round" do
    answer = bridge(wound([10, 50, 150], [200, 60, 90], [300, 50, 140]), girth: 301)
    expect(answer[:girdled_share]).to eq 1.0
    expect(answer[:scions].map { |each| each[:bearing_deg].round(6) }).to eq [20.0, 80.0, 140.0, 200.0, 260.0, 320.0]
    expect(answer[:runs]).to eq []
  end

  it "keeps two wounds apart, and an island of bark between them" do
    answer = bridge(wound([0, 100, 100], [40, 50, 200], [80, 100, 100], [180, 100, 100], [230, 80, 240], [260, 80, 240],
                          [300, 100, 100]))
    expect(answer[:runs]).to eq [[1, 80], [181, 300]]
    expect(answer[:scions].map { |each| each[:bearing_deg] }).to eq [20.75, 60.25, 210.75, 270.25]
    expect(answer[:girdled_share]).to be_within(1e-9).of((79 + 119) / 360.0)
  end

  it "takes a wound across north as one" do
    answer = bridge(wound([60, 100, 100], [300, 100, 100], [0, 40, 240]), girth: 900)
    expect(answer[:runs]).to eq [[301, 420]]
    expect(answer[:count]).to eq 5
    expect(answer[:scions].map { |each| each[:bearing_deg] })
      .to eq(answer[:scions].map { |each| each[:bearing_deg] }.sort)
  end

  it "measures a scion that starts below the soil by its whole gap" do
    answer = bridge(wound([0, -60, 140], [120, -20, 160], [240, -60, 140]))
    expect(answer[:below_soil]).to be true
    expect(answer[:scions].first[:gap_mm]).to be_between(180, 200)
    expect(answer[:extent_mm].first).to be_within(1e-9).of(-60)
  end

  it "reads the verdict from the share, the girth and the root" do
    half = wound([0, 50, 100], [179, 50, 100], [180, 50, 50], [359, 50, 50])
    expect(bridge(half)[:girdled_share]).to eq 0.5
    expect([bridge(half), bridge(half, root_bark: false),
            bridge(half, girth: 90, root_bark: false)].map { |each| each[:verdict] }).to eq %w[needed inarch cut-back]
    expect(bridge(half, girth: 30 * Math::PI)[:verdict]).to eq "needed"
    slight = wound([0, 50, 100], [44, 50, 100], [45, 50, 50], [359, 50, 50])
    expect([bridge(slight), bridge(slight, root_bark: false)].map { |each| each[:verdict] }).to eq %w[dress dress]
    third = wound([0, 50, 100], [119, 50, 100], [120, 50, 50], [359, 50, 50])
    expect([bridge(third), bridge(third, girth: 60)].map { |each| each[:verdict] }).to eq %w[advised advised]
  end

  it "sets none where nothing is open, and one reading all round" do
    expect(bridge([]).values_at(:girdled_share, :verdict, :count, :scions)).to eq [0.0, "dress", 0, []]
    expect(bridge(wound([5, 120, 80], [90, 100, 100]))[:count]).to eq 0
    expect(bridge(wound([77, 0, 100])).values_at(:girdled_share, :count)).to eq [1.0, 5]
  end

  it "places by the spacing, and lengths follow seats and bow" do
    ring = wound([0, 0, 100])
    expect(bridge(ring, spacing_mm: 75)[:count]).to eq 4
    expect(bridge(ring, seat_mm: 0, bow: 0)[:scions].map { |each| each[:length_mm] }.uniq).to eq [100.0]
    PropCheck.forall(PropCheck::Generators.choose(20..200), PropCheck::Generators.choose(60..3000)) do |spacing, girth|
      scions = bridge(wound([0, 10, 90], [90, 0, 110], [200, 20, 60]), spacing_mm: spacing, girth: girth)[:scions]
      apart = scions.map { |each| each[:bearing_deg] }.each_cons(2).map { |a, b| (b - a) / 360 * girth }
      raise "too far apart" if apart.any? { |mm| mm > spacing + 1e-6 }
    end
  end

  it "refuses what cannot be" do
    expect(refusal("bridge", girth_mm: 0, wound: []).field).to eq "girth_mm"
    expect(refusal("bridge", girth_mm: 300, wound: [{ bearing_deg: 360, low_mm: 0, high_mm: 1 }]).field)
      .to eq "wound[0].bearing_deg"
    expect(refusal("bridge", girth_mm: 300, wound: [{ bearing_deg: 0, low_mm: 0 }]).field).to eq "wound[0].high_mm"
    expect(refusal("bridge", girth_mm: 300, wound: [], bow: 1.5).field).to eq "bow"
  end

  describe Vestry::Core::Repair::WoundShape do
    it "says what part of it living scions carry" do
      ring = described_class.new(wound([0, 0.0, 100.0]))
      expect(ring.carried([0, 72, 144, 216, 288], 300, 60)).to eq 1.0
      expect(ring.carried([0, 180], 300, 60)).to be_within(0.02).of(0.4)
      expect([ring.carried([], 300, 60), described_class.new([]).carried([], 300, 60)]).to eq [0.0, 1.0]
    end
  end
end
