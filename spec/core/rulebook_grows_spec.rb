# frozen_string_literal: true

# A method or a kind of stock is added as data: no line of code knows any of them by name.
RSpec.describe "A rulebook with a method and a species more" do
  let(:books) do
    Vestry::Core::Rulebook::FILES.to_h do |name|
      [name, YAML.safe_load_file("#{Vestry::Core::Rulebook::FOLDER}/#{name}.yml")]
    end
  end
  let(:book) { Vestry::Core::Rulebook.new(books) }

  # As a rind graft and an apple, but for what is their own.
  def add_method
    books["methods"]["corner"] = Marshal.load(Marshal.dump(books["methods"]["rind"])).merge(
      "name" => "Corner graft", "stock_works" => { "value" => [20, 40], "unit" => "mm",
                                                   "why" => "Made up for a trial." },
      "stock_ideal" => { "value" => [25, 35], "unit" => "mm", "why" => "Made up for a trial." }
    )
  end

  def add_species
    books["species"]["names"]["quilberry"] = books["species"]["names"]["apple"]
    books["species"]["figures"].each_value { |column| column["values"]["quilberry"] = column["values"]["apple"] }
    books["species"]["figures"]["take"]["values"]["quilberry"] = 0.5
    books["reckoning"]["union"].slice("fruit_g", "leaf_width").each_value { |each| each["value"]["quilberry"] = 30 }
    books["compatibility"]["pairs"]["quilberry"] = { "quilberry" => { "value" => "good",
                                                                      "why" => "One made-up kind." } }
  end

  before do
    add_method
    add_species
    allow(Vestry::Core::Rulebook).to receive(:shipped).and_return(book)
  end

  it "is whole" do
    expect(book.faults).to eq []
    expect([book.stub_methods, book.end_methods]).to all(include("corner"))
    expect(book.site_methods).not_to include("corner")
  end

  it "ranks the method by its own figures, cuts it and says its steps and mistakes" do
    ranked = Vestry::Core::Plan::Methods.reckon(
      { stock_mm: 30.0, species: "quilberry", school: "waxed-rind", slipping: true }, rulebook: book
    )[:ranking]
    expect(ranked.find { |each| each[:method] == "corner" }).to include(blocked: be_falsey, score: be > 0)
    thick = Vestry::Core::Plan::Methods.reckon(
      { stock_mm: 60.0, species: "quilberry", school: "waxed-rind", slipping: true }, rulebook: book
    )[:ranking]
    expect(thick.find { |each| each[:method] == "corner" }[:score]).to eq 0
    cuts = Vestry::Core::Graft::Figures.of("corner", stub_mm: 30.0, scion_mm: 8.0, bark_mm: 2.0, rulebook: book)
    expect(cuts).to include(kind: "slit", face: be > 20, showing: be > 0)
    steps = Vestry::Core::Graft::Steps.of("corner", cuts, stub_mm: 30.0, species: "apple", school: "waxed-rind",
                                          rulebook: book) { |mm| mm.to_s }
    expect(steps.size).to be > 5
  end

  it "expects of the species what its own figures say, and looks after it" do
    expect(Vestry::Core::Plan::Methods.expected_take("quilberry", "corner", book))
      .to be < Vestry::Core::Plan::Methods.expected_take("apple", "corner", book)
    told = Vestry::Core::Tend::Care.reckon(
      { graft: { grafted_on: "2026-04-20", method: "corner", species: "quilberry" }, today: "2026-05-01" },
      rulebook: book
    )
    expect([told[:state], told[:tasks].any?]).to eq ["knitting", true]
    expect([book.compatibility("quilberry", "quilberry")["value"], book.compatibility("apple", "quilberry")["value"]])
      .to eq %w[good refused]
  end
end
