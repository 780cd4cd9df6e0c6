# frozen_string_literal: true

require "csv"

RSpec.describe Vestry::Records::TableFile do
  let(:here) { orchard }
  let!(:stock) { limb(tree(here, row: "A", number: 1)) }
  let!(:kind) { variety(here) }

  def file(name, text) = described_class.new(here, name, text.b)
  def faults(name, text) = file(name, text).faults.map { |fate| [fate.line, fate.fault] }
  def bring(name, text)
    import = Vestry::Deeds::ImportFile.preview(here, name, "#{name}.csv", text.b, by: "Orla", today: World::TODAY)
    Vestry::Deeds::ImportFile.begin(import)
    Vestry::Deeds::ImportFile.write(import.reload, today: World::TODAY)
    import.reload
  end
  def graft_line(**more)
    row = { limb: "A1 A", grafted_on: "2026-04-21", technique: "rind", variety: "Skylark Russet", cut_mm: 600,
            stub_mm: 60, sticks: 2, grafter: "Tam", wrap: "stretch-tape", seal: "wax", cover: "wax-only" }.merge(more)
    [row.keys.join(","), row.values.join(",")].join("\n")
  end

  it "adds rows that point at others by what people call them, with their history" do
    import = bring("grafts", graft_line)
    expect([import.state, import.trouble]).to eq ["done", nil]
    row = Vestry::Records::Graft.first(orchard_id: here.id)
    expect([row.limb_id, row.variety_id, row.grafter]).to eq [stock.id, kind.id, "Tam"]
    expect(Vestry::DB[:history].where(table_name: "grafts", row_id: row.id).get(:action)).to eq "add"
    expect(bring("visits", "graft;seen_on;buds;longest_shoot_mm\nA1 A 2026-04-21;2026-05-12;leafing;55.5\n").state)
      .to eq "done"
    expect(row.reload.visits.map { |seen| [seen.buds, seen.longest_shoot_mm.to_f] }).to eq [["leafing", 55.5]]
  end

  it "takes a comma for the point of a number where cells are parted by something else, and not where it parts them" do
    expect(bring("weather", "day;min_c;max_c;rain_mm\n2025-03-01;-2,5;7,25;0\n2025-03-02;1.5;8;0,4\n").state)
      .to eq "done"
    expect(Vestry::DB[:weather_days].where(day: Date.new(2025, 3, 1)..Date.new(2025, 3,
      2)).order(:day).select_map(%i[min_c max_c rain_mm])).to eq [[-2.5, 7.25, 0.0], [1.5, 8.0, 0.4]]
    expect(faults("weather", "day,min_c,max_c\n2025-03-03,\"1,234\",9\n")).to match [[2, /“1,234” is not a number/]]
    expect(faults("weather", "day;min_c;max_c\n2025-03-03;1,2,3;9\n")).to match [[2, /“1,2,3” is not a number/]]
  end

  it "names line and column of what cannot be, whichever way it is wrong" do
    expect(faults("varieties", "name,species,bloom_from\nNew One,apple,\nOak,oak,\n,apple,\n"))
      .to match [[3, /column species: “oak” is not one of apple/], [4, /column name: is empty/]]
    expect(faults("grafts", graft_line(limb: "Z9 A"))).to match [[2, /column limb: “Z9 A” is not among the limbs here/]]
    expect(faults("grafts", graft_line(stub_mm: "thick"))).to match [[2, /column stub_mm: “thick” is not a number/]]
    expect(faults("grafts", graft_line(technique: "glue")))
      .to match [[2, /column technique: “glue” is not one of bark/]]
    expect(faults("grafts", graft_line(grafted_on: "21.4.26")))
      .to match [[2, /column grafted_on: “21.4.26” is not a day/]]
    expect(faults("grafts", graft_line(sticks: 0))).to match [[2, "column sticks: “0” is not from 1 to 12"]]
    expect(faults("varieties", "name,species\nSkylark Russet,apple\n")).to match [[2, /is here already/]]
    expect(faults("varieties", "name,species\nTwice,apple\nOnce,apple\nTwice,apple\n")).to match [[4, /stands twice/]]
    { "" => /empty/, "name,colour\nA,red\n" => /“colour”: is not one of/, "name\nA\n" => /lacks species/,
      "name,species\n" => /no lines/, "name,species\nA,apple,3\n" => /line/i }.each do |text, words|
      expect { file("varieties", text).fates }.to raise_error(described_class::Unreadable, words)
    end
  end

  it "leaves nothing behind while it looks, nor when any line is wrong" do
    before = Vestry::DB[:varieties].count
    expect(file("varieties", "name,species\nNew One,apple\n").fates.map { |fate| [fate.line, fate.label, fate.fault] })
      .to eq [[2, "New One apple", nil]]
    import = Vestry::Deeds::ImportFile.preview(here, "varieties", "v.csv", "name,species\nNew One,apple\nOak,oak\n".b,
                                            by: "Orla", today: World::TODAY)
    expect { Vestry::Deeds::ImportFile.begin(import) }.to raise_error(Vestry::Deeds::Refused)
    expect(Vestry::DB[:varieties].count).to eq before
  end

  it "points only at its own orchard's rows" do
    other = orchard(slug: "elsewhere")
    limb(tree(other, row: "Q", number: 7))
    expect(faults("grafts", graft_line(limb: "Q7 A"))).to match [[2, /not among the limbs here/]]
  end

  it "takes back what it brought, until something was done with it" do
    import = bring("varieties", "name,species\nNew One,apple\nNew Two,apple\n")
    Vestry::Deeds::ImportFile.undo(import, by: "Orla")
    expect(Vestry::Records::Variety.in_sight.where(orchard_id: here.id).select_map(:name)).to eq [kind.name]
    grafted = bring("grafts", graft_line)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: Vestry::Records::Graft.first.id,
                                        seen_on: Date.new(2026, 5, 1), buds: "asleep")
    expect { Vestry::Deeds::ImportFile.undo(grafted, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /point at some of these/)
    changed = bring("varieties", "name,species\nNew Three,apple\n")
    Vestry::Deeds::Ledger.change(Vestry::Records::Variety.first(name: "New Three"), { species: "pear" }, by: "Tam")
    expect { Vestry::Deeds::ImportFile.undo(changed, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /changed since/)
  end

  it "reads back every table as it is written for a spreadsheet, one after another, into an orchard that has none, " \
     "and takes each back" do
    from = demo
    empty = Vestry::Records::Orchard.create(from.values.slice(:latitude, :longitude, :time_zone, :grazing,
                                                              :wind_from_deg, :school)
                                                                .merge(slug: "fresh", name: "Fresh"))
    written = ->(place, name) { StringIO.new.tap { |io| Vestry::Records::Archive.table(place, name, io,
      safe: true) }.string }
    imports = described_class::ALL.filter_map do |name|
      text = written.call(from, name)
      next if text.lines.size < 2

      import = Vestry::Deeds::ImportFile.preview(empty, name, "#{name}.csv", text.b, by: "Orla", today: World::TODAY)
      expect([name, import.faults.first(2)]).to eq [name, []]
      Vestry::Deeds::ImportFile.begin(import)
      expect([name, import.refresh.state, import.trouble]).to eq [name, "done", nil]
      import
    end
    # Who looked or counted is whoever brings it in, and not whom a file names.
    authored = lambda do |text|
      CSV.parse(text, headers: true).map { |row| row.to_h.to_h { |name, cell| [name,
        cell && Vestry::Records::Archive::Adding::AUTHORS.include?(name.to_sym) ? "Orla" : cell] } }
    end
    described_class::ALL.each do |name|
      expect([name, CSV.parse(written.call(empty, name), headers: true).map(&:to_h)])
        .to eq [name, authored[written.call(from, name)]]
    end
    expect(imports.count { |import| !Vestry::Records::Archive::Tables.named(import.kind).id? }).to be >= 4
    imports.reverse_each { |import| Vestry::Deeds::ImportFile.undo(import, by: "Orla") }
    left = imports.reject do |import|
      rows = Vestry::DB[Vestry::Records::Archive::Tables.named(import.kind).table]
      (rows.columns.include?(:hidden_at) ? rows.where(hidden_at: nil) : rows).where(orchard_id: empty.id).empty?
    end
    expect(left.map(&:kind)).to eq []
    described_class::ALL.each do |name|
      expect(written.call(from, name).lines.size > 1).to be(imports.any? { |import| import.kind == name })
    end
  end

  it "takes back rows without a number by what they say, and only while they still say it" do
    stands = -> { Vestry::DB[:weather_days].where(orchard_id: here.id).order(:day).select_map(%i[day min_c]) }
    Vestry::DB[:weather_days].insert(orchard_id: here.id, day: Date.new(2026, 3, 1), min_c: 1, max_c: 9)
    import = bring("weather", "day,min_c,max_c\n2026-03-02,2,10.5\n2026-03-03,3,11\n")
    expect(stands.call.size).to eq 3
    Vestry::DB[:weather_days].where(day: Date.new(2026, 3, 3)).update(min_c: 4)
    expect { Vestry::Deeds::ImportFile.undo(import, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /changed since/)
    expect([stands.call.size, import.reload.undone_at]).to eq [3, nil]
    Vestry::DB[:weather_days].where(day: Date.new(2026, 3, 3)).update(min_c: 3)
    Vestry::Deeds::ImportFile.undo(import, by: "Orla")
    expect([stands.call, import.reload.undone_at.nil?]).to eq [[[Date.new(2026, 3, 1), 1.0]], false]
    expect(bring("weather", "day,min_c,max_c\n2026-03-02,2,10.5\n").state).to eq "done"
  end

  it "lets a row point at one of its own kind that stands already, and at one of its own file" do
    bring("bundles", "key,variety,cut_on,length_mm\nW1,Skylark Russet,2026-02-14,200\n")
    expect(bring("bundles", "variety,cut_on,length_mm,parent\nSkylark Russet,2026-02-14,200,W1\n").state).to eq "done"
    expect(bring("bundles",
                 "key,variety,cut_on,length_mm,parent\nW3,Skylark Russet,2026-02-14,200,W2\nW4,Skylark " \
                 "Russet,2026-02-14,200,W3\n").state).to eq "done"
    first, second, third, fourth = Vestry::Records::Bundle.order(:id).all
    expect([second, third, fourth].map(&:parent_id)).to eq [first.id, second.id, third.id]
    expect(faults("bundles", "variety,cut_on,length_mm,parent\nSkylark Russet,2026-02-14,200,W9\n"))
      .to match [[2, /“W9” is not among the bundles here/]]
  end

  it "tells what every table's columns are" do
    described_class::KINDS.each { |name| expect(described_class.columns(name)).to all(match(/\A\w+/)) }
    expect(described_class.columns("grafts")).to include("limb (needed) (as in limbs)",
                                                         a_string_starting_with("technique (needed) (bark"))
  end
end
