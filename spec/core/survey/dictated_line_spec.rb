# frozen_string_literal: true

RSpec.describe Vestry::Core::Survey::DictatedLine do
  def read(line) = Vestry::Core::Survey::LimbLine.read(line)

  it "reads what a phone writes down of what was said" do
    { "Limb H north east girth 220" => { tag: "H", bearing_deg: 45.0, girth_mm: 220.0 },
      "A north-west, girth two hundred and twenty." => { tag: "A", bearing_deg: 315.0, girth_mm: 220.0 },
      "B north north east girth two hundred long 2m40" => { tag: "B", bearing_deg: 22.5, girth_mm: 200.0,
                                                            length_mm: 2400.0 },
      "C girth 220." => { tag: "C", girth_mm: 220.0 },
      "D facing south, across seventy, length 1.3 m." => { tag: "D", bearing_deg: 180.0, wide_mm: 70.0,
                                                           length_mm: 1300.0 },
      "b one on B girth ninety up forty degrees" => { tag: "b1", parent: "B", girth_mm: 90.0, rise_deg: 40.0 },
      "E southeast circumference one thousand and fifty" => { tag: "E", bearing_deg: 135.0, girth_mm: 1050.0 },
      "F west girth thirty-five centimetres from one point three metres" => { tag: "F", bearing_deg: 270.0,
                                                                            girth_mm: 350.0, fork_mm: 1300.0 } }
      .each do |line, values|
        found = read(line)
        expect([line, found.why]).to eq [line, nil]
        expect(found.values).to include(values.transform_values { |v| v.is_a?(Float) ? be_within(0.01).of(v) : v })
      end
  end

  it "leaves what is typed as it is, and the words that say the damage" do
    ["B ne girth 220 long 2400 from 1300 up 40 flat s", "B1 on B 60 across 48 x 40 long 1.2m from 700 up 30 crooked",
     "A girth 8 3/4 in 45", "A ne girth 22,5 cm"].each { |line| expect(described_class.plain(line)).to eq line }
    expect(read("A girth 220 damage split in two, and the bark is off").values)
      .to include(damage: "split in two and the bark is off")
  end

  it "joins numbers by \"and\" after a hundred or a thousand alone" do
    expect(described_class.plain("A girth ninety and forty")).to eq "A girth 90 40"
    expect(described_class.plain("A girth two hundred and forty")).to eq "A girth 240"
    expect(described_class.plain("A girth two hundred and up forty")).to eq "A girth 200 up 40"
    expect(described_class.plain("A from one point up forty")).to eq "A from 1 point up 40"
  end

  it "names the word that is none, as it was said" do
    expect(read("A northeast girth tall").word).to eq "girth tall"
    expect(read("A sideways girth 220").word).to eq "sideways"
  end
end
