# frozen_string_literal: true

RSpec.describe Vestry::Records::TreeFile do
  let(:here) { orchard }

  def file(kind, text) = described_class.new(here, kind, text.b, today: World::TODAY)
  def faults(kind, text) = file(kind, text).faults.map { |fate| [fate.line, fate.fault] }

  it "reads commas, semicolons and tabs, Windows line ends and a mark at the beginning" do
    [",", ";", "\t"].each do |mark|
      text = "\uFEFFrow#{mark}number#{mark}species\r\nA#{mark}1#{mark}apple\r\n"
      expect(file("trees", text).fates.map(&:label)).to eq ["A1"]
    end
  end

  { "" => /empty/, "row,number\nA,1\n" => /lacks species/,
    "row,number,species,colour\nA,1,apple,red\n" => /colour, which is not known/,
    "row,number,species\n" => /no lines/, "row,number,species,row\nA,1,apple,A\n" => /row twice/,
    "row,number,species\n\"A,1,apple\n" => /\ALine \d/,
    "row\u0000number" => /not a text/ }.each do |text, words|
    it "says what is wrong with #{text.inspect}" do
      expect { file("trees", text).fates }.to raise_error(Vestry::Records::TreeFile::Unreadable, words)
    end
  end

  it "refuses a part of a whole, and names the first that is wrong with a line" do
    expect(faults("trees", "row,number,species\nA,1.5,apple\nA,2,apple\n"))
      .to eq [[2, "column number: 1.5 is not a whole number"]]
  end

  it "names line and column of what cannot be" do
    tree(here, row: "A", number: 1)
    lines = ["row,number,species,x_m", "A,1,apple,", "B,x,apple,", "B,2,apple,9999999", "B,3,apple,1", "B,3,apple,1",
             ",4,pear,"]
    expect(faults("trees", "#{lines.join("\n")}\n"))
      .to match [[2, /A1 stands here already/], [3, /column number: “x” is not a number/], [4, /column x_m: 9999999/],
                 [6, /B3 is in line 5 already/], [7, /column row: is empty/]]
  end

  it "names what is wrong with limbs" do
    standing = tree(here, row: "A", number: 1)
    limb(standing, "A")
    lines = ["tree,tag,girth_mm,parent,bearing_deg", "A1,A,200,,", "Z9,A,200,,", "A1,B,,,", "A1,C,200,Q,",
             "A1,D,200,D,", "A1,E,200,,400", "A1,F,200,a,"]
    expect(faults("limbs", "#{lines.join("\n")}\n"))
      .to match [[2, /A1 A is there already/], [3, /“Z9” does not stand here/], [4, /no thickness/], [5, /no limb Q/],
                 [6, /from itself/], [7, /400 is not from 0 to 360/]]
  end

  it "refuses bark that leaves no wood, with the line, and takes a little less" do
    tree(here, row: "A", number: 1)
    lines = ["tree,tag,girth_mm,wide_mm,narrow_mm,bark_mm", "A1,A,220,,,40", "A1,B,,40,10,10", "A1,C,220,,,35",
             "A1,D,,40,10,9"]
    expect(faults("limbs", "#{lines.join("\n")}\n"))
      .to match [[2, "column bark_mm: leaves no wood: below 35.0, half its thickness"], [3, /bark_mm: .* below 10/]]
  end

  it "reads waypoints as trees at their place" do
    point = ->(lat, inside) { %(<wpt lat="#{lat}" lon="-2.9">#{inside}</wpt>) }
    points = [point["50.6001", "<name>C 7</name><type>Pear</type>"], point["50.6", "<name>gate</name>"]]
    gpx = %(<?xml version="1.0"?><gpx xmlns="http://www.topografix.com/GPX/1/1">#{points.join}</gpx>)
    expect(file("waypoints", gpx).fates.map { |fate| [fate.label, fate.fault.nil?] }).to eq [["C7", true], ["", false]]
    good = file("waypoints", gpx.sub(/<wpt[^>]*><name>gate.*?<\/wpt>/, ""))
    good.write
    made = here.trees_dataset.first
    expect([made.species, made.map_x.round(1), made.map_y.round(1)]).to eq ["pear", 0.0, 11.1]
  end

  it "writes a place in metres east and north of the orchard's as coordinates" do
    tree(here, row: "B", number: 2, x_m: 300, y_m: -200)
    # A degree is 111,320 m on the way north, and by cos 50.6° = 0.634731 less on the way east.
    expect(JSON.parse(Vestry::Records::TreePlaces.geojson(here))["features"].map { |each| each["geometry"] })
      .to eq [{ "type" => "Point", "coordinates" => [-2.8957542, 50.5982034] }]
  end

  it "reads places as trees, the way they are written here" do
    tree(here, row: "B", number: 2, species: "pear", latitude: 50.6012345, longitude: -2.9)
    other = orchard
    told = described_class.new(other, "places", Vestry::Records::TreePlaces.geojson(here), today: World::TODAY)
    told.write
    expect(other.trees_dataset.select_map([:row, :number, :species, :latitude])).to eq [["B", 2, "pear", 50.6012345]]
    odd = JSON.pretty_generate(type: "FeatureCollection",
                               features: [{ type: "Feature", properties: { name: "C7" },
                                            geometry: { type: "Point", coordinates: [-2.9, 50.6] } },
                                            { type: "Feature", properties: nil, geometry: { type: "LineString",
                                              coordinates: [] } }, { type: "Feature", properties: { name: "C8",
                                                species: "oak" }, geometry: { type: "Point", coordinates: [-2.9,
                                                  950] } }])
    expect(file("places", odd).fates.map { |fate| [fate.line, fate.label, fate.fault] })
      .to match [[5, "C7", nil], [18, "", /the name “” is not a row/],
                 [28, "C8", /latitude: 950 is not from -90 to 90/]]
  end

  { "[1]" => /not a FeatureCollection/, %({"type":"FeatureCollection","features":[]}) => /no features/,
    %({"type":"FeatureCollection","features":[3]}) => /not a FeatureCollection/,
    %({"type":"FeatureCollection","features":[\n {"type":"Feature"},\n  {"type" "Feature"}]}) =>
      /Line 3, column 3: what begins here/, "nonsense" => /Line 1, column 1/ }.each do |text, words|
    it "says what is wrong with the places #{text.inspect}" do
      expect { file("places", text).fates }.to raise_error(Vestry::Records::TreeFile::Unreadable, words)
    end
  end

  it "says where XML is unsound" do
    expect { file("waypoints", "<gpx><wpt></gpx>").fates }
      .to raise_error(Vestry::Records::TreeFile::Unreadable, /Line 1, column/)
  end

  it "writes all of it or nothing, and is not run twice" do
    good = Vestry::Deeds::ImportFile.preview(here, "trees", "t.csv", "row,number,species\nA,1,apple\nA,2,apple\n",
                                          by: "Orla", today: World::TODAY)
    tree(here, row: "A", number: 2)
    Vestry::Deeds::ImportFile.begin(good)
    expect([good.reload.state, here.trees_dataset.count]).to eq ["failed", 1]
    expect(good.trouble).to include("line 3: A2 stands here already")
    again = Vestry::Deeds::ImportFile.preview(here, "trees", "t.csv", "row,number,species\nA,1,apple\n", by: "Orla",
                                           today: World::TODAY)
    2.times { Vestry::Deeds::ImportFile.begin(again.reload) }
    expect([again.reload.state, again.done, here.trees_dataset.count]).to eq ["done", 1, 2]
  end

  it "does not begin a file with a fault" do
    bad = Vestry::Deeds::ImportFile.preview(here, "trees", "t.csv", "row,number,species\nA,1,oak\n", by: "Orla",
                                         today: World::TODAY)
    expect { Vestry::Deeds::ImportFile.begin(bad) }.to raise_error(Vestry::Deeds::Refused)
    expect(bad.reload.state).to eq "previewed"
  end
end

RSpec.describe Vestry::Records::Places do
  it "places trees as surveyed, else by row and number below them" do
    here = orchard
    tree(here, row: "A", number: 1, x_m: 10.0, y_m: 20.0)
    tree(here, row: "B", number: 3)
    tree(here, row: "C", number: 1)
    described_class.settle(here)
    expect(here.trees_dataset.order(:row).select_map(%i[map_x map_y])).to eq [[10.0, 20.0], [10.0, 0.0], [0.0, -6.0]]
    expect(described_class.extent(here)).to eq [[0.0, -6.0, 10.0, 20.0], 3]
  end
end
