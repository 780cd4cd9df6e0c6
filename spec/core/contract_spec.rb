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
      expect { contract.check("size_mm" => bad) }
        .to raise_error(Vestry::Core::BadInput) { |e| expect(e.field).to eq "size_mm" }
    end
  end

  it "names the place of a bad value inside a list" do
    expect { contract.check("size_mm" => 1, "rows" => [{ "at_mm" => 3 }, { "at_mm" => "x" }]) }
      .to raise_error(Vestry::Core::BadInput, "rows[1].at_mm: a number in mm from 0 up to 100000")
  end

  it "says which names are known" do
    expect { contract.check("size_mm" => 1, "kind" => "oak") }
      .to raise_error(Vestry::Core::BadInput, "kind: one of apple, pear")
  end

  it "refuses a day that is not in the calendar" do
    expect { contract.check("size_mm" => 1, "on" => "2026-02-30") }.to raise_error(Vestry::Core::BadInput, /on: a date/)
  end

  it "shows every field in its help, with unit, range and default" do
    expect(contract.help).to include("size_mm: a number in mm above 0", "share [default 0.5]: a number from 0 up to 1",
                                     "at_mm")
  end

  it "refuses a field that nobody asked for, at its place" do
    expect { contract.check("size_mm" => 1, "sizes" => 2) }
      .to raise_error(Vestry::Core::BadInput, /\Asizes: is not asked for; size_mm, share, kind, on, rows are/)
    expect { contract.check("size_mm" => 1, "rows" => [{ "at_mm" => 1, "at" => 1 }]) }
      .to raise_error(Vestry::Core::BadInput, /\Arows\[0\]\.at: /)
  end

  it "refuses numbers, lists, days and texts past all measure, and text that is none" do
    bad = [{ "size_mm" => 1e200 }, { "size_mm" => 10**400 }, { "size_mm" => 1, "on" => "0001-01-01" },
           { "size_mm" => 1, "on" => "2301-01-01" }, { "size_mm" => 1, "kind" => "appl\xFF" },
           { "size_mm" => 1, "rows" => [{ "at_mm" => 1 }] * 2001 }]
    expect(bad.map { |input| contract.check(input) && nil rescue $!.field }).to eq %w[size_mm size_mm on on kind rows]
  end

  it "holds fields that rise to their order, and ids apart as they are written" do
    ordered = described_class.define("ordered", "In order") do
      list(:rows, unique: :id) { key :id; date :from, optional: true; date :to, optional: true; rising :from, :to }
    end
    expect(ordered.check("rows" => [{ "id" => 1, "from" => "2026-05-01", "to" => "2026-05-01" },
                                    { "id" => 2, "to" => "2026-05-01" }])[:rows].size).to eq 2
    expect { ordered.check("rows" => [{ "id" => 1, "from" => "2026-05-02", "to" => "2026-05-01" }]) }
      .to raise_error(Vestry::Core::BadInput, "rows[0].to: a date not below from, 2026-05-02")
    expect { ordered.check("rows" => [{ "id" => 1 }, { "id" => "1" }]) }
      .to raise_error(Vestry::Core::BadInput, /\Arows\[1\]\.id/)
  end

  it "takes one of what stands for one another: none is missing at the first, two are one too many at the second" do
    either = described_class.define("trial", "A trial") do
      number :girth_mm, unit: "mm", above: 0, optional: true
      number :across_mm, unit: "mm", above: 0, optional: true
      one_of :girth_mm, :across_mm
    end
    expect(either.check("across_mm" => 7)).to include(across_mm: 7.0)
    told = [{}, { "girth_mm" => 3, "across_mm" => 4 }].map do |given|
      either.check(given)
    rescue Vestry::Core::BadInput => e
      [e.field.to_s, e.allowed]
    end
    expect(told).to eq [["girth_mm", "is missing; give one of girth_mm, across_mm"],
                        ["across_mm", "give only one of girth_mm, across_mm"]]
  end

  it "refuses anything but an object" do
    expect { contract.check([1]) }.to raise_error(Vestry::Core::BadInput, /\Ainput: a JSON object/)
  end


  it "is each reckoning's own: by its name, with a line of what it is for" do
    Vestry::Core::RECKONINGS.each_key do |name|
      told = Vestry::Core.reckoning(name).contract
      expect([name, told.name, told.summary.include?(" ")]).to eq [name, name, true]
    end
  end
end
