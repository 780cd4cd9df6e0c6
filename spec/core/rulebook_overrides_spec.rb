# frozen_string_literal: true

RSpec.describe Vestry::Core::RulebookOverrides, :core do
  let(:book) { Vestry::Core::Rulebook.shipped }

  def laid(value, **more) = { "value" => value, "why" => "measured", "who" => "Orla", "on" => "2026-01-01" }.merge(more)
  def fault(path, entry) = book.override_fault({ path => entry })

  # Where a figure stands in the files, by their own shape.
  def paths_of_figures
    below = lambda do |path, node|
      next [path] if node.is_a?(Hash) && node.key?("value")

      node.is_a?(Hash) ? node.flat_map { |key, inside| below["#{path}.#{key}", inside] } : []
    end
    species = book.species_names.product(book.book("species").fetch("figures").keys)
      .map { |name, figure| "species.#{name}.#{figure}" }
    species + %w[methods care repair cause reckoning site plausible].flat_map { |name| below[name, book.book(name)] }
  end

  it "lets what fits its entry be laid" do
    expect(book.override_fault({})).to be_nil
    expect(fault("species.apple.take", laid(0.8))).to be_nil
    expect(fault("practice.wrap", laid("film"))).to be_nil
  end

  it "reads yes and no as a person types them" do
    said = ->(typed) { described_class.new(book).read("methods.cleft.needs_slip", typed) }
    expect(%w[yes true no false].map(&said)).to eq [true, true, false, false]
    expect { said["maybe"] }.to raise_error(Vestry::Core::BadInput, /is yes or no/)
  end

  it "takes nothing typed for what holds in every orchard" do
    typed = ->(path, value) { described_class.new(book).read(path, value) }
    %w[plausible.girth reckoning.regraft.beside_mm].each do |path|
      expect { typed[path, "2"] }.to raise_error(Vestry::Core::BadInput, /holds in every orchard/)
    end
    expect(typed["reckoning.regraft.lower", "70"]).to eq 70
  end

  it "holds a number to its range, each of its ends within" do
    low, high = book.entry("species.apple.take").range
    expect([low, high].map { |value| fault("species.apple.take", laid(value)) }).to eq [nil, nil]
    words = "species.apple.take: is a number from #{low} to #{high} (share)"
    expect([low - 0.01, high + 0.01, "0.8", nil, [0.8],
            true].map { |value| fault("species.apple.take", laid(value)) }.uniq)
      .to eq [words]
  end

  it "refuses what nothing can be divided by" do
    expect(fault("species.apple.take", laid(0))).to include("from 0.02 to 1")
    expect(fault("care.figures.recent_days", laid(0))).to include("from 1 to 365")
    expect(fault("methods.four-flap.scion_works", laid([0.9, 4]))).to include("from 0.05 to 3")
  end

  it "holds a pair to as many numbers, rising" do
    path = "plausible.girth"
    pair = book.value(path)
    expect(pair.size).to eq 2
    middle = pair.sum / 2.0
    expect(fault(path, laid(pair))).to be_nil
    expect(fault(path, laid([middle, pair.last]))).to be_nil
    words = "#{path}: is 2 numbers that rise, such as #{pair.join(' to ')}, each from 1 to 60000 (mm)"
    [[pair.last, pair.first], [pair.first], [*pair, pair.last + 1], pair.first, %w[a b], nil].each do |value|
      expect([value, fault(path, laid(value))]).to eq [value, words]
    end
  end

  it "reads every figure that may be overruled as it is shown, and lets it stand" do
    shown = paths_of_figures.reject { |path| described_class.fixed?(path) }.map { |path| book.entry(path) }
      .select { |entry| entry.range || [true, false].include?(entry.value) }
    expect(shown.size).to be > 500
    read = shown.to_h do |entry|
      typed = { true => "yes", false => "no" }.fetch(entry.value) { Vestry::Core::RulebookProse.figures(entry.value) }
      [entry.path, described_class.new(book).read(entry.path, typed)]
    end
    expect(read).to eq(shown.to_h { |entry| [entry.path, entry.value] })
  end

  it "lets what narrows from level to level fall, and wants as many" do
    path = "reckoning.practice_right_way.lean"
    expect(described_class.new(book).read(path, "30, 25, 20, 15, 10")).to eq [30, 25, 20, 15, 10]
    expect(fault(path, laid([30, 25])))
      .to eq "#{path}: is 5 numbers, such as 34, 28, 22, 17, 13, each from 0 to 90 (degrees)"
  end

  it "reads what is typed as the kind that ships, by commas or points, and says of the same fault the same" do
    overrides = described_class.new(book)
    read = ->(path, typed, **more) { overrides.read(path, typed, **more) }
    expect([read["species.apple.take", " 0,45 "], read["reckoning.slip.heat_days", "4"],
            read["methods.rind.stock_works", "20 to 110"], read["methods.rind.needs_slip", "no"],
            read["care.calendar.autumn", "10-20"], read["practice.sticks", "pair"]])
      .to eq [0.45, 4, [20, 110], false, "10-20", "pair"]
    { "species.apple.take" => "2", "methods.rind.needs_slip" => "perhaps", "care.calendar.autumn" => "20.10.",
      "practice.sticks" => "bundle", "methods.rind.stock_works" => "110 to 20" }.each do |path, typed|
      said = begin
        read[path, typed]
      rescue Vestry::Core::BadInput => e
        e.allowed
      end
      value = typed == "110 to 20" ? [110, 20] : typed
      expect("#{path}: #{said}").to eq fault(path, laid(value))
    end
    expect { read["methods.rind.stock_ideal", "20 to 130"] }.to raise_error(Vestry::Core::BadInput, /beyond what works/)
    expect { read["methods.shovel.minutes", "3"] }.to raise_error(KeyError)
  end

  it "knows only entries of the book, choices of a point, and the four things said of one" do
    expect(fault("no.such.entry", laid(1))).to eq "no.such.entry: is not in the rulebook"
    expect(fault("practice.no-such-point", laid("x"))).to eq "practice.no-such-point: is not in the rulebook"
    expect(fault("practice.wrap", laid("weld"))).to start_with "practice.wrap: is one of "
    [3, nil, [], { "why" => "x" }, laid(0.8, "colour" => "green")].each do |entry|
      expect(fault("species.apple.take", entry))
        .to eq "species.apple.take: is not an object with value, why, who and on"
    end
  end

  it "reads so much of a reason, and no other kind of one" do
    most = described_class::LONGEST
    expect(fault("species.apple.take", laid(0.8, "why" => "x" * most))).to be_nil
    ["x" * (most + 1), 7, nil, ["x"]].each do |why|
      expect(fault("species.apple.take", laid(0.8, "why" => why))).to end_with "in at most #{most} characters"
    end
  end

  it "takes the ends of an entry's unit, widened to what ships, and twenty times what ships where the unit has none" do
    entry = ->(value, unit) { Vestry::Core::Rulebook::Entry.new(path: "x", value: value, unit: unit, why: "for trial") }
    told = ->(value, unit, own = nil) { Vestry::Core::RulebookRanges.of(entry[value, unit], own) }
    ends = { "share" => [0, 1], "likelihood" => [0, 1], "weight" => [0, 1], "per cent" => [0, 100],
             "degrees" => [0, 90], "°C" => [-40, 60], "days" => [0, 400], "day of the working year" => [0, 365],
             "weeks" => [0, 520], "hours" => [0, 168], "minutes" => [0, 600], "m/s" => [0.5, 60],
             "observations" => [0, 100], "points" => [-10, 10], "times" => [1, 20], "limbs" => [1, 50],
             "sticks" => [1, 12], "seasons" => [0, 20], "people" => [1, 50], "reasons" => [1, 10] }
    expect(ends.keys.to_h { |unit| [unit, told[1, unit]] }).to eq ends
    expect(told[0.4, "share of the head"]).to eq [0, 1]
    expect(told[500, "days"]).to eq [0, 500]
    expect(told[[2, 8], "parsecs"]).to eq [0.1, 160]
    expect(told[3, "reasons", [2, 4]]).to eq [2, 4]
    expect([told["pencil", nil], told[{ "a" => 1 }, "days"]]).to eq [nil, nil]
  end
end
