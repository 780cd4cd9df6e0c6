# frozen_string_literal: true

RSpec.describe Vestry::Core::RulebookCheck do
  def book(file, &change)
    books = Vestry::Core::Rulebook::FILES.to_h do |name|
      [name, YAML.safe_load_file("#{Vestry::Core::Rulebook::FOLDER}/#{name}.yml")]
    end
    change&.call(books[file])
    Vestry::Core::Rulebook.new(books)
  end

  it "finds nothing wrong with the book that ships" do
    expect(book(nil).faults).to eq []
  end

  it "finds a number without a reason" do
    expect(book("methods") { |m| m["rind"]["stock_works"].delete("why") }.faults)
      .to eq ["methods.rind.stock_works: has no reason"]
  end

  it "finds a range back to front, and an ideal that reaches beyond what works" do
    expect(book("methods") { |m| m["rind"]["stock_ideal"]["value"] = [90, 40] }.faults)
      .to include("methods.rind.stock_ideal: goes from 90 down to 40")
    expect(book("methods") { |m| m["rind"]["stock_ideal"]["value"] = [30, 300] }.faults)
      .to eq ["methods.rind.stock_ideal: reaches beyond what works"]
  end

  it "finds a figure missing for a species" do
    expect(book("species") { |s| s["figures"]["take"]["values"].delete("pear") }.faults)
      .to eq ["species.pear.take: is missing"]
  end

  it "finds a figure that no species has" do
    { "take" => 1.2, "slip_base" => 21, "slip_dd" => 1200, "knit_days" => 121 }.each do |figure, beyond|
      faults = book("species") { |s| s["figures"][figure]["values"]["pear"] = beyond }.faults
      expect(faults).to contain_exactly(a_string_starting_with("species.pear.#{figure}: "))
    end
    kind = book("species") { |s| s["figures"]["slip_dd"]["values"]["pear"] = 999 }
    expect(kind.faults).to eq []
  end

  it "finds a sentence cut short by its comma" do
    expect(book("site") { |s| s["browse"]["deer"]["and then some"] = nil }.faults.first)
      .to include("site.browse.deer.and then some: stands empty")
  end

  {
    "methods" => { ->(m) { m["rind"].delete("cuts") } => "methods.rind.cuts: is one of slit, side-slit",
                   ->(m) { m["rind"]["place"] = "root" } => "methods.rind.place: is one of end, side, shoot, trunk",
                   ->(m) { m["cleft"].delete("union") } => "methods.cleft.union: is one of whole, closing",
                   ->(m) { m["four-flap"]["flaps"] = 5 } => "methods.four-flap.flaps: is 3 or 4",
                   ->(m) { m["inlay"].delete("kin") } => "methods.inlay.kin: is missing",
                   ->(m) { m["inlay"].delete("minutes") } => "methods.inlay.minutes: is missing" },
    "steps" => { ->(s) { s["kinds"].delete("panel") } => "steps.kinds.panel: is missing",
                 ->(s) { s["mistakes"].delete("tongue") } => "steps.mistakes.tongue: is missing",
                 ->(s) { s["kinds"]["chip"][0].delete("does") } => "steps.kinds.chip: has a step without words" },
    "care" => { ->(c) { c["rules"]["tally"]["after"] = "payday" } => "care.tally: hangs on payday, which is no event",
                ->(c) { c["rules"]["tally"]["needs"] = ["happy"] } => "care.tally: needs happy, which is no state",
                ->(c) { c["rules"]["tally"]["answered-by"] = "song" } => "care.tally: is answered by song" },
    "repair" => { ->(r) { r["rules"]["seals"]["after"] = "payday" } => "repair.seals: hangs on payday, which is no",
                  ->(r) { r["rules"]["dig"]["needs"] = ["happy"] } => "repair.dig: needs happy, which is no state",
                  ->(r) { r["rules"]["whitewash"] = r["rules"]["dig"] } =>
                    "repair.whitewash: is called as a rule of care is" },
    "reckoning" => { ->(r) { r["union"]["fruit_g"]["value"].delete("fig") } =>
                       "reckoning.union.fruit_g: says nothing of fig" },
    "compatibility" => { ->(c) { c["pairs"]["plum"].delete("plum") } => "compatibility.plum.plum: is missing" }
  }.each do |file, changes|
    changes.each do |change, fault|
      it "names what is missing in #{file}: #{fault}" do
        expect(book(file, &change).faults).to contain_exactly(a_string_starting_with(fault))
      end
    end
  end

  it "finds a point of practice that is limited to a kind of graft that is none" do
    expect(book("schools") { |s| s["points"]["seal"]["kinds"] << "graftling" }.faults)
      .to eq ["schools.seal: is for graftling, which is no kind of graft"]
  end

  it "finds a school that chooses what is not there, and a task that closes before it is due" do
    expect(book("schools") { |s| s["schools"]["film-wrap"]["choices"]["wrap"] = "string" }.faults.first)
      .to include("chooses string at wrap")
    expect(book("care") { |c| c["rules"]["tally"]["closes"] = 1 }.faults)
      .to eq ["care.tally: does not open, fall due and close in that order"]
  end
end

RSpec.describe "What a school brings" do
  let(:rulebook) { Vestry::Core::Rulebook.shipped }
  let(:stub) { { wood_diameter_mm: 58, rise_deg: 40 } }

  it "changes sticks, cover tasks and materials when the school changes" do
    sticks, tasks, materials = %w[waxed-rind covered-inlay film-wrap].map do |school|
      graft = { grafted_on: "2026-04-20", method: "rind", species: "apple" }
      [reckon("sticks", stub.merge(practice: rulebook.practice("sticks", school)))[:count],
       reckon("care", graft: graft, school: school, today: "2026-05-20",
              observations: [{ on: "2026-05-14", buds: "leafing" }])[:tasks].map { |each| each[:rule] },
              rulebook.materials(school)]
    end.transpose
    expect(sticks).to eq [3, 1, 1]
    expect(tasks.map { |each| each & %w[wax-check uncover let-light-in free-buds slit-tape] })
      .to eq [%w[wax-check slit-tape], %w[uncover slit-tape], %w[free-buds]]
    expect(materials.map { |each| each & %w[grafting-wax foil film pins] })
      .to eq [%w[grafting-wax], %w[foil pins], %w[film]]
  end
end
