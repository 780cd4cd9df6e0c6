# frozen_string_literal: true

RSpec.describe Vestry::Core::Rulebook do
  let(:book) { described_class.shipped }

  it "answers with a value, its unit and its reason" do
    entry = book.entry("methods.rind.stock_works")
    expect(entry).to have_attributes(value: [25, 120], unit: "mm", why: a_string_matching(/slit/))
  end

  it "has every figure for every species, and a reason for each column" do
    figures = book.book("species").fetch("figures")
    figures.each_value do |column|
      expect(column).to include("why" => a_string_matching(/\w+ \w+/), "values" => include(*book.species_names))
    end
  end

  it "lays an orchard's value over the shipped one, and remembers both" do
    own = book.overruled("species.apple.take" => { "value" => 0.8, "who" => "Ida", "why" => "our record" })
    expect(own.entry("species.apple.take")).to have_attributes(value: 0.8, shipped: 0.9)
    expect(book.value("species.apple.take")).to eq 0.9
  end

  it "lets a school choose, and an orchard overrule the school" do
    expect(book.practice("sticks", "waxed-rind")).to eq "ring"
    expect(book.overruled("practice.sticks" => { "value" => "pair" }).practice("sticks", "waxed-rind")).to eq "pair"
  end

  it "lets every school choose at every point, among that point's choices" do
    schools = book.book("schools")
    schools["schools"].each_value do |school|
      expect(school["choices"].keys).to match_array book.point_names
      school["choices"].each { |point, choice| expect(schools["points"][point]["choices"]).to include(choice) }
    end
  end

  it "cannot be changed by whoever reads it" do
    expect { book.value("methods.rind.stock_works") << 3 }.to raise_error(FrozenError)
  end

  it "says so when it is silent" do
    expect { book.value("methods.rind.nonsense") }.to raise_error(KeyError)
    expect(book.known?("methods.approach.stock_ideal")).to be false
  end
end
