# frozen_string_literal: true

RSpec.describe Vestry::Deeds::MatchTable do
  let(:here) { orchard }
  let(:today) { World::TODAY }

  def bring(kind, bytes, name = "t.csv")
    Vestry::Deeds::ImportFile.preview(here, kind, name, bytes.b, by: "Orla", today: today)
  end

  def questions(import)
    table = Vestry::Records::ForeignTable.new(import.content)
    Vestry::Records::TableLayout.of(import).open_questions(table)
  end

  # Said by hand over what was guessed.
  def tell(import, columns: {}, **facts)
    layout = import.layout.to_h
    found = layout["columns"].each_with_index.map { |column, i| columns.key?(i) ? columns[i] : column }
    described_class.call(import, layout.merge("columns" => found, **facts.transform_keys(&:to_s)), today: today)
  end

  def finish(import)
    expect([import.state, import.faults]).to eq ["previewed", []]
    Vestry::Deeds::ImportFile.begin(import)
    Vestry::Deeds::ImportFile.write(import.reload, today: today)
    expect(import.reload.values.slice(:state, :trouble)).to eq(state: "done", trouble: nil)
    import
  end

  def wide(text) = "\uFEFF#{text}".encode("UTF-16LE")
  def weather = Vestry::DB[:weather_days].where(orchard_id: here.id).order(:day)
  def limbs = Vestry::Records::Limb.where(orchard_id: here.id).order(:tag).all

  SURVEY = <<~CSV.encode("Windows-1252")
    Aufnahme Hangwiese;;;;;;
    Baum;Ast;Umfang (cm);Ansatzhöhe (cm);Richtung;Länge (m);Aufgenommen
    A 1;A;31,4;110;SW;2,4;12.01.2025
    A 1;B;25;95,5;22,5;2;13.01.2025
    A1;B1;k.A.;40;0;1;13.01.2025
  CSV

  it "reads a survey in another language, with decimal commas, units in its headings and days of its own order" do
    tree(here, row: "A", number: 1)
    import = bring("limbs", SURVEY.sub("k.A.", "12"))
    expect(import.state).to eq "matching"
    expect(questions(import)).to eq []
    import = tell(import)
    expect(import.sample[1]["understood"]).to eq("girth_mm" => "250", "fork_mm" => "955", "bearing_deg" => "22.5",
                                                 "length_mm" => "2000", "surveyed_on" => "2025-01-13")
    finish(import)
    facts = %i[tag girth_mm fork_mm bearing_deg length_mm surveyed_on]
    expect(limbs.map { |limb| facts.map { |fact| limb.public_send(fact) } })
      .to eq [["A", 314, 1100, 225, 2400, Date.new(2025, 1, 12)], ["B", 250, 955, 22.5, 2000, Date.new(2025, 1, 13)],
              ["B1", 120, 400, 0, 1000, Date.new(2025, 1, 13)]]
  end

  it "takes a heading for a tree's name only where trees stand under it" do
    guessed = ["Tree;Height\n;4\n", "Tree;Height\nA1;4\n"].map do |text|
      bring("trees", text).layout.to_h["columns"].first&.fetch("field")
    end
    expect(guessed).to eq [nil, "row_number"]
  end

  it "tells each line's fate by the file's own lines and headings, and writes nothing of a bad one" do
    tree(here, row: "A", number: 1)
    import = tell(bring("limbs", SURVEY.sub("25;95,5", "dick;95,5")))
    expect(import.faults.map { |fault| fault.values_at("line", "fault") })
      .to eq [[4, "column “Umfang (cm)”: “dick” is not a number"],
              [5, "has no thickness: give girth_mm, or wide_mm and narrow_mm"]]
    expect { Vestry::Deeds::ImportFile.begin(import) }.to raise_error(Vestry::Deeds::Refused)
    expect(limbs).to eq []
  end

  it "reads tabs of two bytes to a sign, in inches and feet, with a diameter for a girth" do
    tree(here, row: "C", number: 7)
    import = bring("limbs", wide("Limb ID\tDiameter (in)\tFork (ft)\tDirection\nC7-A\t4\t3\tNE\nC7-B\t3.5\t4.5\t270\n"))
    finish(tell(import))
    expect(limbs.map { |limb| [limb.tree.label, limb.tag, limb.girth_mm.to_f.round, limb.fork_mm, limb.bearing_deg] })
      .to eq [["C7", "A", (Math::PI * 101.6).round, 914.4, 45], ["C7", "B", (Math::PI * 88.9).round, 1371.6, 270]]
  end

  it "reads a table as people write it by hand, with signs for feet and inches, and says in which unit a heading is" do
    variety(here, "Old Red")
    import = bring("trees", "Block;Tree no;Kind;Sort;Around (in);Height (ft)\nN;1;apple;Old Red;31 1/2;14\n" \
                            "N;2;apple;Old Red;30\";11' 6\"\nN;3;apple;Old Red;2';9'\nN;4;apple;Old Red;4″;10′\n")
    expect(Vestry::Records::ForeignTable.new(import.content).unit_said(4)).to eq "in"
    finish(tell(import, columns: { 4 => { "field" => "trunk_girth_mm", "unit" => "in" } }))
    expect(Vestry::Records::Tree.where(orchard_id: here.id).order(:number)
      .select_map(%i[row trunk_girth_mm height_mm]).map { |row, *mm| [row, *mm.map(&:to_f)] })
      .to eq [["N", 800.1, 4267.2], ["N", 762.0, 3505.2], ["N", 609.6, 2743.2], ["N", 101.6, 3048.0]]
  end

  it "knows a variety however it is written, by a name that was given up too, and asks which it is where it does not" do
    red, other = variety(here, "Old Barn Red"), variety(here, "Barn Apple")
    Vestry::Deeds::MergeVariety.call(other, red, by: "Orla")
    import = bring("trees", "Row,No,Kind,Sort\nN,1,apple,old barn red\nN,2,apple,Barn apple\n" \
                            "N,3,apple,Old Barn Redd\nN,4,apple,\n")
    expect(questions(import)).to eq ["Say which variety “Old Barn Redd” is, or write it into the register first."]
    finish(tell(import, words: { "variety" => { "Old Barn Redd" => "Old Barn Red" } }))
    expect(Vestry::Records::Tree.where(orchard_id: here.id).order(:number).select_map(:variety_id))
      .to eq [red.id, red.id, red.id, nil]
  end

  it "knows bark by its roughness from bark by its thickness" do
    tree(here, row: "N", number: 1)
    limb_table = "Tree,Limb,Round (cm),From ground (cm),Direction,Length (m),Bark\n"
    rough = bring("limbs", "#{limb_table}N1,A,24,90,N,2.4,borkig\nN1,B,20,95,S,2.4,\n")
    thick = bring("limbs", "#{limb_table}N1,C,24,90,N,2.4,4\n")
    expect([rough, thick].map { |import| import.layout["columns"].last["field"] }).to eq %w[bark bark_mm]
    expect(questions(thick)).to eq ["Say in what unit its thickness of bark is."]
    finish(tell(rough))
    expect(limbs.map { |limb| [limb.tag, limb.bark] }).to eq [["A", "rough"], ["B", nil]]
  end

  it "parts B1 into row and number, and asks for words that it does not know" do
    import = bring("trees", "Standort;Obstart;Pflanzjahr;Stammumfang\nB1;Apfel;1998;88 cm\nB 2;Zwetschge;2001;0,7 m\n" \
                            "B-3;Holzapfel;;\n")
    expect(questions(import)).to eq ["Say what “Holzapfel” is among species."]
    expect { tell(import) }.to raise_error(Vestry::Deeds::Refused)
    finish(tell(import.reload, words: { "species" => { "Holzapfel" => "apple" } }))
    facts = %i[label species planted_year trunk_girth_mm]
    expect(here.trees_dataset.order(:number).all.map { |one| facts.map { |fact| one.public_send(fact) } })
      .to eq [["B1", "apple", 1998, 880], ["B2", "plum", 2001, 700], ["B3", "apple", nil, nil]]
  end

  it "takes what holds for every line, and does not guess at a unit" do
    import = bring("trees", "Tree No,Row,Girth\n1,A,88\n2,A,91\n")
    expect(questions(import)).to eq ["Say which column holds species.", "Say in what unit its trunk girth is."]
    finish(tell(import, columns: { 2 => { "field" => "trunk_girth_mm", "unit" => "cm" } },
                        constants: { "species" => "pear" }))
    expect(here.trees_dataset.select_order_map(%i[number species 
trunk_girth_mm])).to eq [[1, "pear", 880], [2, "pear", 910]]
  end

  it "asks in which order days are written where they can be two, and remembers it for the next file" do
    text = ->(day) { "Date,Max temp (F),Min temp (F),Precip (in)\n#{day},50,32,0.1\n04/03/2026,59,41,\n" }
    import = bring("station", text["03/03/2026"])
    expect(questions(import)).to eq [Vestry::Records::TableLayout::ORDER]
    finish(tell(import, order: "mdy"))
    days = weather.select_map(%i[day min_c max_c rain_mm])
    expect(days.map { |day, *figures| [day.iso8601, *figures.map { |one| one&.round(3) }] })
      .to eq [["2026-03-03", 0.0, 10.0, 2.54], ["2026-04-03", 5.0, 15.0, nil]]
    again = bring("station", text["05/03/2026"])
    expect(again.state).to eq "previewed"
    finish(again)
    expect(weather.select_map(:day)).to include(Date.new(2026, 5, 3))
    other = Vestry::Deeds::ImportFile.preview(orchard, "station", "t.csv", text["05/03/2026"].b, by: "Gus",
                                                                                   today: today)
    expect(other.state).to eq "matching"
  end

  def hours(day, range) = range.map { |hour|
 "#{day} #{format('%02d', hour)}:00,#{hour - 5},#{'0.5' if hour < 23},#{hour}" }

  it "puts a logger's hours together into days, and leaves out a day of which too little was measured" do
    text = <<~CSV
      Logger 4711 of the lower field
      Exported 2026-05-20

      Timestamp,Temperature,Rain,Gust speed
      ,°C,mm,km/h
      #{[*hours('2026-05-17', 0..23), *hours('2026-05-18', 0..11), *hours('2026-05-19', 0..21)].join("\n")}
    CSV
    import = tell(bring("station", text))
    expect(import.sample.map { |line| line.values_at("line", "label", "left_out") })
      .to eq [[6, "2026-05-17", nil], [30, "2026-05-18", [12, 24]], [42, "2026-05-19", nil]]
    expect(import.sample.last["understood"])
      .to match("min_c" => "-5.0", "max_c" => "16.0", "rain_mm" => "11.0", "gust_ms" => /\A5\.8333/)
    finish(import)
    days = weather.select_map(%i[day min_c max_c rain_mm gust_ms])
    expect(days.map { |row| [row[0].day, *row[1..3], row[4].round(2)] })
      .to eq [[17, -5.0, 18.0, nil, 6.39], [19, -5.0, 16.0, 11.0, 5.83]]
  end

  it "takes what is not known for not known, and not for nothing" do
    rows = ["Datum\tTmin\tTmax\tNiederschlag", "14.05.2026\t-1,5\t12,0\t---", "15.05.2026\t2,0\t13,5\t0,0"]
    import = bring("station", wide("#{rows.join("\n")}\n"))
    expect(questions(import)).to eq(["least temperature", "greatest temperature", "rain"]
      .map { |what| "Say in what unit its #{what} is." })
    finish(tell(import, columns: { 1 => { "field" => "min_c", "unit" => "c" },
                                   2 => { "field" => "max_c", "unit" => "c" },
                                   3 => { "field" => "rain_mm", "unit" => "mm" } }))
    expect(weather.select_map(%i[min_c max_c rain_mm])).to eq [[-1.5, 12.0, nil], [2.0, 13.5, 0.0]]
  end

  it "reads the time of day in twelve hours and in twenty-four, and none that no clock shows" do
    reader = Vestry::Records::FigureReader.new(Vestry::Records::TableLayout.new("station", {}), comma: false)
    clock = lambda do |said|
      reader.send(:read_clock, "clock", said)
    rescue Vestry::Records::FigureReader::UnreadCell
      nil
    end
    expect(["12:05 am", "12:05 pm", "1:30 PM", "00:00", "23:59", "7 h", "7 Uhr"].map(&clock))
      .to eq %w[00:05 12:05 13:30 00:00 23:59 07:00 07:00]
    expect(["24:00", "12:60", "noon"].map(&clock)).to eq [nil, nil, nil]
  end

  it "reads day and time from columns of their own, and a year of two digits" do
    import = bring("station", "Day,Time,Temp (°C)\n#{(0..23).map { |hour| "17-May-26,#{(hour - 1) % 12 + 1}:00 " \
      "#{hour < 12 ? 'AM' : 'PM'},#{hour}" }.join("\n")}\n")
    finish(tell(import))
    expect(weather.select_map(%i[day min_c max_c])).to eq [[Date.new(2026, 5, 17), 0.0, 23.0]]
  end

  it "reads a store's logger" do
    store = Vestry::Deeds::KeepStore.open(here, "Cellar", by: "Orla")
    import = bring("store_readings", "Zeitpunkt;Wert (°F)\n20.04.2026 06:00;35,6\n20.04.2026 07:30;36,5\n")
    expect(questions(import)).to eq ["Say which column holds store."]
    finish(tell(import, constants: { "store" => "Cellar" }))
    read = Vestry::DB[:store_readings].where(store_id: store.id).order(:at)
    expect(read.select_map(:celsius).map { |celsius| celsius.to_f.round(2) }).to eq [2.0, 2.5]
    # The logger's clock is the orchard's: summer time there.
    expect(read.select_map(:at).map { |at| at.utc.strftime("%H:%M") }).to eq %w[05:00 06:30]
  end

  it "takes a station's file back: what it brought goes, and what it wrote over comes again" do
    Vestry::Deeds::KeepWeather.keep(here, [{ day: Date.new(2026, 5, 14), min_c: 1.0, max_c: 9.0, forecast: false }])
    text = "day,tmin (c),tmax (c)\n20260514,3,11\n20260515,4,12\n"
    import = finish(tell(bring("station", text), order: "ymd"))
    expect(weather.select_map(:min_c)).to eq [3.0, 4.0]
    Vestry::Deeds::ImportFile.undo(import, by: "Orla")
    expect(weather.select_map(%i[day min_c])).to eq [[Date.new(2026, 5, 14), 1.0]]
    again = finish(bring("station", text))
    Vestry::Deeds::KeepWeather.keep(here, [{ day: Date.new(2026, 5, 15), min_c: 0.0, max_c: 9.0, forecast: false }])
    expect { Vestry::Deeds::ImportFile.undo(again, by: "Orla") }.to raise_error(Vestry::Deeds::Refused, /measured anew/)
    expect(weather.select_map(:min_c)).to eq [3.0, 0.0]
  end

  it "is taken back by one of two who take it back at once" do
    import = finish(bring("station", "day,min_c,max_c\n2026-05-01,1,3\n2026-05-02,1,3\n"))
    back = lambda do
      Vestry::Deeds::ImportFile.undo(Vestry::Records::Import[import.id], by: "Orla") && "back"
    rescue Vestry::Deeds::Refused => e
      e.errors[:file].first
    end
    told = Array.new(2) { Thread.new(&back) }.map(&:value)
    expect(told).to match_array ["back", /taken back already/]
    expect(weather.count).to eq 0
    expect(Vestry::DB[:history].where(table_name: "imports", action: "hide").count).to eq 1
  end

  it "refuses what cannot be a table, and figures that cannot be" do
    expect { bring("station", "nothing at all\n") }.to raise_error(Vestry::Deeds::Refused, /columns/)
    expect { bring("station", "day,min (c),max (c)\n") }.to raise_error(Vestry::Deeds::Refused, /no lines/)
    bad = "day,min (c),max (c)\n2026-05-01,9,3\n2026-05-02,NaN,3\n2026-05-03,1,900\nyesterday,1,2\n"
    expect(tell(bring("station", bad)).faults.to_h { |fault| fault.values_at("line", "fault") })
      .to match(2 => /above the greatest/, 3 => "column “min (c)”: no figure stands there", 4 => /not believable/,
                5 => "column “day”: “yesterday” is not a day, or not in the order that was chosen")
  end

  it "lets one of two that match the same file at once go on" do
    import = bring("station", "day,min (c),max (c)\n2026-05-01,1,3\n")
    telling = -> { tell(Vestry::Records::Import[import.id]) && "in" rescue $!.class.name }
    told = Array.new(2) { Thread.new(&telling) }.map(&:value)
    expect(told).to include("in")
    expect(import.reload.state).to eq "previewed"
  end
end
