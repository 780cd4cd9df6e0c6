# frozen_string_literal: true

# What people write in the cells of their own tables.
RSpec.describe Vestry::Records::FigureReader do
  def layout(kind, field, unit = nil)
    Vestry::Records::TableLayout.new(kind, { "columns" => [{ "field" => field, "unit" => unit }] })
  end

  def read(field, cell, unit: nil, kind: "limbs")
    described_class.new(layout(kind, field, unit), comma: false).read(field, cell)
  rescue described_class::UnreadCell => e
    e.message
  end

  it "reads lengths in parts of an inch, in the column's unit or their own" do
    cells = { "8 3/4" => "222.25", "8¾" => "222.25", "30-1/2" => "774.7", "7/8" => "22.225", "8 3/4 cm" => "87.5",
              "4' 6\"" => "1371.6", "1 ft 2 1/2 in" => "368.3", "8.75" => "222.25", "12 mm" => "12" }
    expect(cells.keys.to_h { |cell| [cell, read("girth_mm", cell, unit: "in")] }).to eq cells
    expect(read("fork_mm", "4 1/2", unit: "ft")).to eq "1371.6"
    expect(read("x_m", "12 1/2", unit: "ft", kind: "trees")).to eq "3.81"
    expect([read("girth_mm", "8 3/0", unit: "in"), read("girth_mm", "ten", unit: "in")])
      .to match [/is not a length/, "“ten” is not a number"]
  end

  it "reads directions in words" do
    cells = { "South" => "180", "north-east" => "45", "North East" => "45", "NNE" => "22.5", "west" => "270",
              "225°" => "225" }
    expect(cells.keys.to_h { |cell| [cell, read("bearing_deg", cell)] }).to eq cells
    expect(read("bearing_deg", "uphill")).to eq "“uphill” is not a direction such as NE or 45"
  end

  it "knows a kind of tree in the plural, and a method by the name that pages give it" do
    species, methods = %w[trees grafts].zip(%w[species technique])
      .map { |kind, field| Vestry::Records::LayoutFields.of(kind).fetch(field).choices }
    book = Vestry::Core::Rulebook.shipped
    words = Vestry::Records::TableWords
    expect(%w[Cherries Apples peaches figs Kirsche].map { |said| words.word(said, species) })
      .to eq %w[cherry apple peach fig cherry]
    expect(methods.to_h { |name| [name, words.word(book.method_fact(name, "name"), methods)] })
      .to eq(methods.to_h { |name| [name, name] })
    expect([words.word("a tree", species), words.word("graft", methods)]).to eq [nil, nil]
  end
end
