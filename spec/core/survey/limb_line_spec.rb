# frozen_string_literal: true

RSpec.describe Vestry::Core::Survey::LimbLine do
  def read(line, **options) = described_class.read(line, **options)
  def values(line, **options) = read(line, **options).values

  it "reads the whole line" do
    expect(values("B ne girth 220 long 2400 from 1300 up 40 flat s"))
      .to eq(tag: "B", bearing_deg: 45.0, girth_mm: 220.0, length_mm: 2400.0, fork_mm: 1300.0, rise_deg: 40.0,
             flat_deg: 180.0, typed: "220")
  end

  it "reads lengths any way they are written, and words in any order" do
    expect(values("C2 on C long 1.2 m across 48 x 40mm 200 crooked bark rough up 10 from 70cm"))
      .to eq(tag: "C2", parent: "C", length_mm: 1200.0, narrow_mm: 40.0, wide_mm: 48.0, bearing_deg: 200.0,
             straight: "crooked", bark: "rough", rise_deg: 10.0, fork_mm: 700.0)
    expect(values("A girth 8 3/4 long 7 ft 6 in NNW", units: "imperial"))
      .to include(girth_mm: 222.25, length_mm: 2286.0, bearing_deg: 337.5)
  end

  it "takes how the bark is by itself, and a damage that speaks of bark to its end" do
    expect(values("A girth 180 up 40 rough")).to include(rise_deg: 40.0, bark: "rough")
    expect(values("A girth 180 damage rough patch of bark")).to eq(tag: "A", girth_mm: 180.0, typed: "180",
                                                                   damage: "rough patch of bark")
  end

  it "knows the sixteen winds, each a step of twenty-two and a half degrees on" do
    winds = %w[n nne ne ene e ese se sse s ssw sw wsw w wnw nw nnw]
    expect(winds.map { |wind| values("A girth 180 #{wind}")[:bearing_deg] }).to eq Array.new(16) { |i| i * 22.5 }
  end

  it "wants no more than a tag and a thickness" do
    expect(values("A girth 180")).to eq(tag: "A", girth_mm: 180.0, typed: "180")
    expect(read("A ne long 2000")).to have_attributes(word: "A", why: /no thickness/)
    expect(read("A across")).to have_attributes(word: "across", why: /wants a length/)
  end

  { "B girth abc" => ["girth abc", /not a length/], "B girth 0" => ["girth 0", /above zero/],
    "B girth 220 sideways" => ["sideways", /not a word/],
    "B girth 220 up steep" => ["up steep", /degrees from -90 to 90/], "B girth 220 up 95" => ["up 95", /-90 to 90/],
    "B girth 220 flat q" => ["flat q", /compass/],
    "B girth 220 ne s" => ["s", /not a word/], "B girth" => ["girth", /wants a length/],
    "girth 220" => ["girth", /is a word of these lines and no tag: a line begins with the limb's tag/],
    "leader girth 220" => ["leader", /is a word of these lines and no tag/],
    "<b> girth 220" => ["<b>", /is no tag: a line begins with the limb's/], "B girth 220 on" => ["on", /wants the tag/],
    "B across 20 bark 10" => ["bark", /leaves no wood: below 10.0 mm, half its thickness/],
    "B across 40x10 bark 12" => ["bark", /below 10.0 mm/], "B bark 40 girth 220" => ["bark", /below 35.0 mm/],
    "B girth 220 400" => ["400", /0 to 360/] }.each do |line, (word, why)|
    it "names the word it cannot read in #{line.inspect}" do
      expect(read(line)).to have_attributes(ok?: false, word: word, why: why)
    end
  end

  it "takes bark that leaves wood under it" do
    expect(values("B across 20 bark 9.9")).to include(bark_mm: 9.9)
  end

  it "lets the other lines stand" do
    reads = described_class.read_all("A n girth 200\n\nB girth pear\nC s girth 210", units: "metric")
    expect(reads.map { |each| [each.number, each.ok?] }).to eq [[1, true], [3, false], [4, true]]
  end

  it "refuses a tag that is there already, on the tree or in a line before" do
    reads = described_class.read_all("a girth 200\nB girth 200\nB girth 90", taken: ["A"])
    expect(reads.map(&:why)).to match [/a limb a already/, nil, /a limb B already/]
  end

  it "lets a branch grow only from a limb that is there before it" do
    reads = described_class.read_all("A1 on A girth 90\nB1 on B girth 90\nB girth 200\nC on C girth 80", taken: ["A"])
    expect(reads.map(&:ok?)).to eq [true, false, true, false]
  end

  it "gives an example that reads as the same limb in either unit" do
    limbs = described_class::EXAMPLE.map { |units, line| described_class.read(line, units: units) }
    expect(limbs.map(&:why)).to eq [nil, nil]
    expect(limbs.map { |read| read.values.slice(:bearing_deg, :rise_deg, :flat_deg) }.uniq.size).to eq 1
    %i[girth_mm length_mm fork_mm].each do |name|
      metric, inches = limbs.map { |read| read.values.fetch(name) }
      expect([name, inches / metric]).to match [name, be_within(0.02).of(1)]
    end
  end
end
