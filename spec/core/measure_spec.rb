# frozen_string_literal: true

RSpec.describe Vestry::Core::Measure do
  { "22 cm" => 220, "8 3/4 in" => 222.25, "8¾\"" => 222.25, "220" => 220, "1.3 m" => 1300, "1.3m" => 1300,
    "4' 2\"" => 1270,
    "4 ft 2" => 1270, "1,5 m" => 1500, " 12MM " => 12, "½ in" => 12.7, "2 m 30 cm" => 2300,
    "-5" => -5 }.each do |typed, mm|
    it "reads a bare number with its fraction, and nothing that has a unit" do
    expect(["2", "1 1/2", "½", "2,5", " 3/4 ", "-1"].map { |text| described_class.figure(text) })
      .to eq [2.0, 1.5, 0.5, 2.5, 0.75, -1.0]
    expect(["", "two", "2 cm", "2\"", "1/0", "9" * 400, nil].map { |text| described_class.figure(text) }).to all(be_nil)
  end

  it "reads #{typed.inspect} as #{mm} mm" do
      expect(described_class.parse(typed).mm).to be_within(1e-6).of(mm)
    end
  end

  it "knows every way of writing a unit" do
    worth = { 1.0 => %w[mm millimetre millimetres], 10.0 => %w[cm centimetre centimetres], 1000.0 => %w[m metre metres],
              25.4 => %w[in inch inches " ″ ”], 304.8 => %w[ft foot feet ' ′ ’] }
    told = worth.transform_values { |units| units.map { |unit| described_class.parse("3 #{unit}").mm.round(6) }.uniq }
    expect(told).to eq(worth.to_h { |mm, _| [mm, [(3 * mm).round(6)]] })
    expect(described_class::WORTH.keys - worth.values.flatten).to eq []
  end

  it "takes a bare number as inches where inches are used" do
    expect(described_class.parse("8 3/4", units: "imperial").mm).to eq 222.25
  end

  it "keeps what was typed" do
    expect(described_class.parse(" 8¾\" ").typed).to eq '8¾"'
  end

  ["", "  ", "abc", "220 400", "2 m 30", "12 parsecs", "1/0", "3 cm nonsense", "<script>"].each do |typed|
    it "refuses #{typed.inspect} and shows how to write it" do
      expect { described_class.parse(typed, field: :girth) }
        .to raise_error(Vestry::Core::BadInput) { |e| expect([e.field, e.allowed]).to match ["girth",
          /write it as 220/] }
    end
  end

  it "holds a length to a range as it is said: its ends may be typed as they read, in either unit" do
    expect(described_class.within(400.05, 3, 400, "imperial")).to eq 400
    expect(described_class.within(9.525, 10, 500, "imperial")).to eq 10
    expect(described_class.within(222.25, 3, 400, "imperial")).to eq 222.25
    expect(described_class.within(405, 3, 400, "imperial")).to be_nil
    expect(described_class.within(400.6, 3, 400, "metric")).to be_nil
    expect(described_class.within(-5, 0, 60, "metric")).to be_nil
  end

  it "says lengths in the orchard's own units" do
    expect([described_class.say(220.4), described_class.say(2400), described_class.say(222.25, "imperial"),
            described_class.say(1270, "imperial"), described_class.say(12.7, "imperial"), described_class.say(nil)])
      .to eq ["220 mm", "2.40 m", "8 3/4 in", "4 ft 2 in", "1/2 in", "–"]
  end

  it "says what is finer than a sixteenth of an inch in parts of a hundred" do
    expect([0.15, 0.5, 1.0, -0.5, 1.6, 12.0, 0].map { |mm| described_class.say_fine(mm, "imperial") })
      .to eq ["0.006 in", "0.02 in", "0.04 in", "-0.02 in", "1/16 in", "1/2 in", "0 in"]
    expect(described_class.say_fine(12, "metric")).to eq "12 mm"
  end

  it "says how thick a limb is as it was measured: round it, or across" do
    round, flat = { girth_mm: 220, wide_mm: nil, narrow_mm: nil }, { girth_mm: nil, wide_mm: 64.0, narrow_mm: 58.0 }
    said = [round, flat, flat.merge(narrow_mm: 64.0)].map { |limb| described_class.say_thickness(limb) }
    expect(said).to eq ["220 mm round", "64 mm × 58 mm across", "64 mm across"]
    expect(described_class.say_thickness({ wide_mm: 63.5, narrow_mm: 63.5 }, "imperial")).to eq "2 1/2 in across"
  end

  it "says what is thinner than an inch in sixteenths, as sticks are sold and called" do
    said = %w[7/16 15/16 1/16 3/8 0.98 1.0 1.06 -5/16 0].map do |inches|
      described_class.say(Rational(inches) * 25.4r, "imperial")
    end
    expect(said).to eq ["7/16 in", "15/16 in", "1/16 in", "3/8 in", "1 in", "1 in", "1 in", "-5/16 in", "0 in"]
    expect([914.4, 913.0, 1219.2].map { |mm| described_class.say(mm, "imperial") }).to eq ["3 ft", "3 ft", "4 ft"]
  end

  it "reads back what it says, to an eighth of an inch" do
    PropCheck.forall(PropCheck::Generators.choose(1..9000)) do |mm|
      said = described_class.say(mm, "imperial")
      expect(described_class.parse(said, units: "imperial").mm).to be_within(25.4 / 16 + 1e-6).of(mm)
    end
  end

  it "says what a blade takes off to a tenth of a millimetre or a 32nd of an inch" do
    expect([1.84, 0.96, 2.0].map { |mm| described_class.say_thin(mm, "metric") }).to eq ["1.8 mm", "1.0 mm", "2.0 mm"]
    expect([1.84, 0.79, 2.4, 25.4, 27.0, 0.2].map { |mm| described_class.say_thin(mm, "imperial") })
      .to eq ["1/16 in", "1/32 in", "3/32 in", "1 in", "1 1/16 in", "0 in"]
  end

  it "says the marks of a scale in one unit from end to end" do
    marks = ->(units, most, all) { all.map { |mm| described_class.say_mark(mm, units, most: most) } }
    expect(marks["metric", 999, [0, 250, 500.4]]).to eq ["0", "250 mm", "500 mm"]
    expect(marks["metric", 1000, [0, 250, 1000, 1275]]).to eq ["0", "0.25 m", "1 m", "1.28 m"]
    expect(marks["imperial", 914.4, [0, 304.8, 609.6, 857]]).to eq ["0", "1 ft", "2 ft", "34 in"]
    expect(marks["imperial", 900, [304.8, 609.6]]).to eq ["12 in", "24 in"]
  end

  it "says warmth, and degrees summed, by the thermometer of the place" do
    say = ->(*asked, **more) { described_class.say_warmth(*asked, **more) }
    expect([say[6, "metric"], say[4.5, "metric"], say[6, "metric", places: 1]]).to eq ["6 °C", "4.5 °C", "6.0 °C"]
    expect([-9.4, 0].map { |celsius| say[celsius, "imperial"] }).to eq ["15 °F", "32 °F"]
    expect([described_class.degrees_summed(120, "metric"), described_class.degrees_summed(120.4, "imperial")])
      .to eq [120, 217]
  end
end
