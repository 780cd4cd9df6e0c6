# frozen_string_literal: true

RSpec.describe "What forms make of what is typed" do
  describe Vestry::Web::Contracts::DiameterRun do
    def run(text, units = "metric") = described_class.read(text, units).map { |mm| mm.round(2) }

    it "reads a run of sizes, apart by spaces, commas, semicolons or lines" do
      expect(run("8 9 9.5 11 8")).to eq [8, 9, 9.5, 11, 8]
      expect(run("8, 9;\n9,5")).to eq [8, 9, 9.5]
      expect(run("5/16 3/8 1/2", "imperial")).to eq [7.94, 9.53, 12.7]
    end

    it "takes units that stand apart, and how many there are of a size as it is said back" do
      expect(run("9 mm, 3 × 8.5 mm; 2x10\n1 cm")).to eq [9, 8.5, 8.5, 8.5, 10, 10, 10]
      expect(run("9,5 9.5")).to eq [9.5, 9.5]
      expect(run('3/8 in, 2 × 7/16 in 1 1/8" 5/16', "imperial")).to eq [9.53, 11.11, 11.11, 28.58, 7.94]
      expect { run("3 × 80 mm") }.to raise_error(Vestry::Core::BadInput, /number 1, “80mm”, is 80 mm/)
      expect { run("8 3 ×") }.to raise_error(Vestry::Core::BadInput, /number 3, “×” is not a length/)
      ["0 × 9", "3 × 4 × 9"].each { |typed| expect { run(typed) }.to raise_error(Vestry::Core::BadInput, /number 1/) }
      expect { run("999 × 9") }.to raise_error(Vestry::Core::BadInput, /500 sticks in one bundle at most/)
    end

    it "says which of them cannot be a stick" do
      { "8 90 9" => /number 2, “90”, is 90 mm/, "8 x" => /number 2, “x” is not a length/,
        "8 1" => /number 2.*2 mm to 30 mm/, "8 -9" => /number 2/ }.each do |text, words|
        expect { run(text) }.to raise_error(Vestry::Core::BadInput) { |error| expect(error.allowed).to match(words) }
      end
    end
  end

  describe Vestry::Web::Contracts::VarietyForm do
    it "reads a day and a month as people write them" do
      { "5 May" => "05-05", "05-31" => "05-31", "September 20" => "09-20", "20. sep" => "09-20",
        "29 February" => "02-29" }.each do |typed, day|
        expect([typed, described_class.day(typed)]).to eq [typed, day]
      end
      ["31 April", "30 February", "5", "May", "13-01", "5 Mayhem 2026", ""].each do |typed|
        expect([typed, described_class.day(typed)]).to eq [typed, nil]
      end
    end
  end

  describe Vestry::Web::DilutionForm do
    it "measures in the fewest of the larger measures" do
      dip = described_class.new(orchard, {})
      expect(dip.say(1000)).to eq "1000 ml, about 1 jug"
      expect(dip.say(3)).to eq "3.0 ml"
      expect([dip.say(99.4), dip.say(100)].map { |words| words[/\A[\d.]+ ml/] }).to eq ["99.4 ml", "100 ml"]
      expect(dip.say(275)).to eq "275 ml, about 1 cup, 1 tablespoon and 2 teaspoons"
      expect(described_class.new(orchard(units: "imperial"), {}).measures.keys).to include("quart")
    end

    it "is typed with fractions, in quarts and spoons where inches are measured in, and says what is no amount" do
      asked = { "way" => "make", "target" => "0.5", "strength" => "4.5" }
      typed = ->(more, units) { described_class.new(orchard(units: units), asked.merge(more)) }
      # Nine parts of dip take one of product: a ninth of 1 1/2 quarts of 946.4 ml.
      expect(typed[{ "total" => "1 1/2" }, "imperial"].answer[:product_ml]).to be_within(0.01).of(946.4 * 1.5 / 9)
      expect(typed[{ "total" => "900" }, "metric"].answer[:product_ml]).to be_within(0.01).of(100)
      expect(typed[{ "total" => "½", "total_in" => "cup" }, "imperial"].answer[:product_ml])
        .to be_within(0.01).of(236.6 / 2 / 9)
      expect(["", "two", "2 cm"].map { |total| typed[{ "total" => total }, "imperial"].error }).to eq [
        ["total", "Say how much, such as 2 or 1 1/2."], ["total", "“two” is no number: write it as 2, 0.5 or 1 1/2."],
        ["total", "“2 cm” is no number: write it as 2, 0.5 or 1 1/2."]
      ]
      expect([{ "total" => "-1" }, { "total" => "1", "strength" => "101" }, { "total" => "1", "target" => "-2" }]
        .map { |more| typed[more, "metric"].error }).to eq [["total", "Write how much, such as 2 or 1 1/2."],
                                                            ["strength", "Write a strength from 0 to 100 %."],
                                                            ["target", "Write a strength from 0 to 100 %."]]
    end
  end
end
