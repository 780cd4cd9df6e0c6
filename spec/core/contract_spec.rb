# frozen_string_literal: true

RSpec.describe Vestry::Core::Contract do
  let(:contract) do
    described_class.define("trial", "A trial") do
      number :size_mm, unit: "mm", above: 0
      number :share, least: 0, most: 1, default: 0.5
      name :kind, %w[apple pear], optional: true
      date :on, optional: true
      list(:rows, optional: true) { number :at_mm, unit: "mm", least: 0 }
    end
  end

  it "coerces whole numbers to floats, so that they do not divide as integers" do
    expect(contract.check("size_mm" => 7)[:size_mm]).to eql 7.0
  end

  it "takes null for an optional field as its default" do
    expect(contract.check("size_mm" => 7, "share" => nil)[:share]).to eq 0.5
  end

  [nil, "7", true, [], {}, 0, -1, Float::NAN, Float::INFINITY].each do |bad|
    it "refuses #{bad.inspect} as a size, naming the field" do
      expect { contract.check("size_mm" => bad) }.to raise_error(Vestry::Core::BadInput) { |e| expect(e.field).to eq "size_mm" }
    end
  end

  it "names the place of a bad value inside a list" do
    expect { contract.check("size_mm" => 1, "rows" => [{ "at_mm" => 3 }, { "at_mm" => "x" }]) }
      .to raise_error(Vestry::Core::BadInput, "rows[1].at_mm: a number in mm from 0")
  end

  it "says which names are known" do
    expect { contract.check("size_mm" => 1, "kind" => "oak") }.to raise_error(Vestry::Core::BadInput, "kind: one of apple, pear")
  end

  it "refuses a day that is not in the calendar" do
    expect { contract.check("size_mm" => 1, "on" => "2026-02-30") }.to raise_error(Vestry::Core::BadInput, /on: a date/)
  end

  it "shows every field in its help, with unit, range and default" do
    expect(contract.help).to include("size_mm: a number in mm above 0", "share [default 0.5]: a number from 0 up to 1", "at_mm")
  end

  it "refuses anything but an object" do
    expect { contract.check([1]) }.to raise_error(Vestry::Core::BadInput, /\Ainput: a JSON object/)
  end
end
