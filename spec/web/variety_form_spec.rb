# frozen_string_literal: true

RSpec.describe Vestry::Web::Contracts::VarietyForm do
  def row(**typed)
    result = described_class.new.call(name: " Amber Pippin ", species: "apple", **typed)
    expect(result.errors.to_h).to eq({})
    described_class.to_row(result.to_h)
  end

  it "takes a day and a month as people write them" do
    { "5 May" => "05-05", "May 5" => "05-05", "05-31" => "05-31", "5. may" => "05-05", "29 February" => "02-29",
      "1 jan" => "01-01", "December 31" => "12-31" }.each do |typed, kept|
      expect(described_class.day(typed)).to eq(kept), typed
    end
  end

  it "takes nothing else for a day" do
    ["5 Foo", "Foo 5", "30 February", "13-01", "00-10", "01-00", "5 Mayo5", "maybe", "5", "2026-05-05",
     ""].each do |typed|
      expect(described_class.day(typed)).to be_nil, typed
    end
    told = described_class.new.call(name: "Amber", species: "apple", bloom_from: "31 April").errors.to_h
    expect(told).to eq(bloom_from: ["a day and a month, such as 5 May"])
  end

  it "writes down every column, so that one left out is emptied" do
    expect(row).to eq(name: "Amber Pippin", species: "apple", bloom_from: nil, bloom_to: nil, harvest_from: nil,
                      harvest_to: nil, vigour: nil, pollen: nil, permission: nil, origin: nil, notes: nil,
                      protected: false, outside: false)
    expect(row(protected: true, outside: true, version: 3))
      .to include(protected: true, outside: true).and(satisfy { |kept| !kept.key?(:version) })
    expect(row(protected: false, outside: false)).to include(protected: false, outside: false)
  end
end
