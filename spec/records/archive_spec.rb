# frozen_string_literal: true

require "fileutils"
require "json_schemer"
require "tmpdir"
require "vips"

require "csv"

RSpec.describe Vestry::Records::Archive do
  tables = -> { Vestry::Records::Archive::Tables }
  let(:demo_folder) { File.join(Vestry::ROOT, "demo/maunder-hill") }

  def files(folder)
    Dir.glob("**/*", base: folder).select { |name| File.file?(File.join(folder, name)) }.sort.to_h do |name|
      [name, File.binread(File.join(folder, name))]
    end
  end

  # A changed copy of the demo's files, read.
  def read_changed(name)
    Dir.mktmpdir do |folder|
      FileUtils.cp_r("#{demo_folder}/.", folder)
      path = File.join(folder, name)
      File.write(path, yield(File.read(path)))
      described_class.read(folder)
    end
  end

  # Everything an orchard may hold, some of it hidden.
  def fill(here)
    apple = here.trees_dataset.first(row: "A", number: 1)
    Vestry::Deeds::KeepPhoto.call(apple, StringIO.new(Vips::Image.black(40, 30).write_to_buffer(".png")),
                                  limb: apple.limbs.first, by: "Orla", today: World::TODAY)
    Vestry::Records::PhenologySeen.create(orchard_id: here.id, tree_id: apple.id, seen_on: World::TODAY, stage: "green",
                                          slipping: true, seen_by: "Orla")
    Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: here.varieties.first.id, season: 2027,
                                        sticks: 5, source: %(a "neighbour", east))
    Vestry::Records::Tree.create(orchard_id: here.id, row: "A1", number: 1, species: "apple",
                                 notes: "=1+1\nand a line more; é ü 柿")
    stays = here.varieties_dataset.order(:id).first(species: "apple")
    Vestry::Deeds::MergeVariety.call(variety(here, "A Second Name"), stays, by: "Orla")
    Vestry::Deeds::Hide.call(here.grafts.last, by: "Orla", why: "by mistake")
    graft(apple.limbs.first, grafted_on: here.grafts.first.grafted_on).tap do |twin|
      graft(apple.limbs.first, grafted_on: twin.grafted_on)
    end
    Vestry::DB[:weather_days].insert(orchard_id: here.id, day: World::TODAY, min_c: 3.3, max_c: 11.25, rain_mm: nil,
                                     forecast: true)
    here.update(overrides: Sequel.pg_jsonb({ "practice.nurse-off" => { "value" => "second-year",
                                                                       "why" => "our roots are weak",
                                                                       "who" => "Orla" } }))
    here
  end

  it "reads the demo orchard with its story" do
    read = demo
    expect([read.trees_dataset.count, read.grafts_dataset.count]).to eq [57, 39]
    lost = read.grafts.select { |each| each.fate == "lost" }
    expect(lost.map { |each| each.tallies.last.breakage }).to include("blown out in August")
  end

  it "writes the same files from what it read, photos and hidden rows and all" do
    Dir.mktmpdir do |folder|
      here = fill(demo)
      described_class.write(here, "#{folder}/one")
      described_class.pack(here, "#{folder}/one.zip")
      described_class.pack(here, "#{folder}/again.zip")
      expect(File.binread("#{folder}/one.zip")).to eq File.binread("#{folder}/again.zip")
      Slate.wipe
      described_class.write(described_class.read("#{folder}/one.zip"), "#{folder}/two")
      one, two = files("#{folder}/one"), files("#{folder}/two")
      expect(two.keys).to eq one.keys
      one.each do |name, bytes|
        expect([name, two[name] == bytes, two[name] == bytes ? nil : two[name][0, 600]]).to eq [name, true, nil]
      end
      expect(one.keys).to include("orchard.json", "history.csv", "photos/P1-large.jpg", "grafts.csv")
      # What a spreadsheet would run is written as it is: nothing but an orchard is made of these files.
      expect(one["trees.csv"]).to include("A1-1,A1,1,", "\"=1+1\nand a line more")
      expect(one["grafts.csv"]).to match(/ #2,/)
    end
  end

  it "reads a second orchard beside the first under another address, and refuses the same one" do
    here = demo
    Dir.mktmpdir do |folder|
      described_class.write(here, folder)
      expect { described_class.read(folder) }.to raise_error(described_class::Unreadable,
          /an orchard called maunder-hill is here already/)
      other = described_class.read(folder, slug: "other-hill")
      expect([other.trees_dataset.count, Vestry::Records::Orchard.count]).to eq [57, 2]
    end
  end

  it "reads all of it or nothing, and says where it stopped" do
    put = ->(from, to) { ->(text) { text.sub(from, to) } }
    wrong = {
      "limbs.csv" => [
        [put["A1 C,A1,", "A1 C,Z9,"], /limbs.csv line 4, column “tree”: “Z9” is not in trees.csv/],
        [put["A1 C,", "A1 B,"], /line 4, column “key”: “A1 B” stands twice/],
        [put["fork_mm", "fork_feet"], /limbs.csv line 1, column “fork_feet”: is not one of/],
        [->(text) { text.sub(",923,", ",").sub(/^A2 A,.*$/, "A2 A,A2") }, /limbs.csv line \d+: .*column/]
      ],
      "trees.csv" => [[put[",1994,", ",nineteen,"],
                       /trees.csv line 2, column “planted_year”: “nineteen” is not a whole number/]],
      "grafts.csv" => [
        [put["2025-04-22,rind", "2025-02-31,rind"],
         /grafts.csv line \d+, column “grafted_on”: “2025-02-31” is not a day/],
        [put[",55,", ",-55,"], /grafts.csv: .*sizes_positive/],
        [put[",rind,", ",glued,"], /grafts.csv line 2, column “technique”: “glued” is not one of bark/]
      ],
      "orchard.json" => [[put["vestry-orchard-2", "vestry-orchard-9"], /layout "vestry-orchard-9"/],
                         [->(text) { text[0, 40] }, /orchard.json:/],
                         [put['"grazing"', '"grzing"'], /does not know grzing/]]
    }
    wrong.each do |name, cases|
      cases.each do |change, words|
        expect { read_changed(name, &change) }.to raise_error(described_class::Unreadable, words)
        expect(Vestry::Records::Orchard.count).to eq 0
      end
    end
  end

  it "reads what a spreadsheet saved: a mark at the front, semicolons, columns in another order" do
    read = read_changed("varieties.csv") do |text|
      rows = CSV.parse(text, headers: true)
      turned = [rows.headers.reverse, *rows.map { |row| row.fields.reverse }]
      "\uFEFF#{CSV.generate(col_sep: ';') { |csv| turned.each { |row| csv << row } }}"
    end
    expect(read.varieties.map(&:name)).to include("Skylark Russet")
  end

  it "knows a task of a stripped trunk by the name that it had in files of earlier years" do
    read_changed("tasks.csv") do |text|
      "#{text}A1 D 2025-04-21,whitewash,2025-08-12,done,Orla,\n,whitewash,2026-11-02,done,Orla,C10 2026-01-19\n"
    end
    expect(Vestry::DB[:tasks_done].where(Sequel.like(:key, "whitewash%")).order(:done_on).select_map(:key))
      .to eq %w[whitewash whitewash-trunk]
  end

  it "refuses rows that do not belong together, though each is there" do
    expect { read_changed("limbs.csv") { |text| text.sub(/^D1 A1,D1,D1 A,/, "D1 A1,D1,A1 A,") } }
      .to raise_error(described_class::Unreadable, /limbs.csv: a line's tree and parent do not belong together/)
    expect(Vestry::Records::Orchard.count).to eq 0
  end

  it "says that a zip is none" do
    Dir.mktmpdir do |folder|
      File.binwrite("#{folder}/no.zip", "not a zip")
      expect { described_class.read("#{folder}/no.zip") }.to raise_error(described_class::Unreadable)
    end
  end

  it "disarms formulas for a spreadsheet, and only there" do
    here = fill(demo)
    cell = ->(safe) { StringIO.new.tap { |io| described_class.table(here, "trees", io,
        safe: safe) }.string[/"('?=1\+1)/, 1] }
    expect([cell.call(false), cell.call(true)]).to eq ["=1+1", "'=1+1"]
  end

  it "disarms whatever a spreadsheet would run, in keys and in what points at them too, and reads it back as it was" do
    here = demo
    names = ["=HYPERLINK(1)", "+1", "-1", "@SUM", "|cmd", "%x"]
    varieties = here.varieties_in_sight.first(names.size).zip(names).each { |row, name| row.update(name: name) }
      .map(&:first)
    here.trees.first.update(variety_id: varieties.first.id)
    written = ->(name) { CSV.parse(StringIO.new.tap { |io| described_class.table(here, name, io, safe: true) }.string,
                                   headers: true) }
    all = described_class::Tables.all.flat_map do |table|
      written.call(table.name).flat_map { |row| row.to_h.values.compact }
    end
    expect(all.grep(/\A[=+@|%\t\r]|\A-[^\d]/)).to eq []
    expect(written.call("varieties").map { |row| row["key"] }).to include(*names.map { |name| "'#{name}" })
    expect(written.call("trees").map { |row| row["variety"] }).to include "'=HYPERLINK(1)"
    text = "key,row,number,species,variety\nZ1,Z,1,#{varieties.first.species},'=HYPERLINK(1)\n"
    expect(Vestry::Records::TableFile.new(here, "trees", text.b).faults).to eq []
  end

  describe "its schema" do
    it "stands in docs as it is, and every written line keeps to it" do
      here = fill(demo)
      Dir.mktmpdir do |folder|
        described_class.write(here, folder)
        expect(JSONSchemer.schema(JSON.parse(File.read("#{Vestry::ROOT}/docs/archive/orchard.schema.json")))
          .valid?(JSON.parse(File.read("#{folder}/orchard.json")))).to be true
        tables.call.all.each do |table|
          kept = JSON.parse(File.read("#{Vestry::ROOT}/docs/archive/#{table.name}.schema.json"))
          expect([table.name, kept]).to eq [table.name, tables.call.schema(table)]
          schemer = JSONSchemer.schema(kept)
          lines = CSV.read("#{folder}/#{table.name}.csv", headers: true, encoding: "utf-8").first(200)
          faults = lines.flat_map { |line| schemer.validate(line.to_h.compact).map { |fault| fault["error"] } }
          expect([table.name, faults.first]).to eq [table.name, nil]
        end
      end
    end
  end
end
