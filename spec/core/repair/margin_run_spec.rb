# frozen_string_literal: true

RSpec.describe Vestry::Core::Repair::MarginRun, :core do
  def read(text, units = "metric") = described_class.read(text, units: units)

  it "reads margins as they are called out" do
    run = read("n 100 to 320\nne 9 cm - 30cm, e closed\n200° -40 to 260; w 80..200")
    expect(run.faults).to eq []
    expect(run.readings).to eq [{ bearing_deg: 0.0, low_mm: 100.0, high_mm: 320.0 },
                                { bearing_deg: 45.0, low_mm: 90.0, high_mm: 300.0 },
                                { bearing_deg: 90.0, low_mm: 195.0, high_mm: 195.0 },
                                { bearing_deg: 200.0, low_mm: -40.0, high_mm: 260.0 },
                                { bearing_deg: 270.0, low_mm: 80.0, high_mm: 200.0 }]
  end

  it "closes bark half way up the nearest wound, and at the soil where there is none" do
    closed = ->(text) { read(text).readings.find { |each| each[:bearing_deg] == 90 }.values_at(:low_mm, :high_mm) }
    expect(closed["n 100 to 300, e closed, s 10 to 30, nw 1 to 3"]).to eq [200.0, 200.0]
    expect(closed["e closed, se 10 to 30, n 100 to 300"]).to eq [20.0, 20.0]
    expect(closed["n closed, e closed, w closed"]).to eq [0.0, 0.0]
  end

  it "reads degrees all the way round, and no further" do
    at = ->(word) { read("#{word} 1 to 2, 10 1 to 2, 100 1 to 2") }
    expect(%w[0 359.5 360 45°].map { |word| at[word].readings.map { |each| each[:bearing_deg] } - [10.0, 100.0] })
      .to eq [[0.0], [359.5], [0.0], [45.0]]
    %w[-1 360.5 400].each { |word| expect(at[word].faults.map(&:why)).to match [/degrees from 0 to 360/] }
  end

  it "reads inches and fractions" do
    run = read("n 4 to 12 1/2\ns 3 to 9\nw -1 1/2 to 8", "imperial")
    expect(run.readings.map { |each| each.values_at(:low_mm, :high_mm) })
      .to eq [[101.6, 317.5], [76.2, 228.6], [-38.1, 203.2]]
  end

  it "says of each reading that cannot be taken what is wrong" do
    why = ->(text) { read(text).faults.map { |each| [each.number, each.why] }.first }
    expect(why.call("n 320 to 100, e 1 to 2, s 1 to 2"))
      .to match [1, /upper margin \(100 mm\) is under the lower \(320 mm\)/]
    expect(why.call("n 1 to 2, e 1 to 2, n 3 to 4")).to match [3, /0° was called out before, in reading 1/]
    expect(why.call("n 1 to 2")).to match [1, /one reading says nothing/]
    expect(why.call("north-ish 1 to 2")).to match [1, /compass point/]
    expect(why.call("n")).to match [1, /wants two heights/]
    expect(why.call("n 100")).to match [1, /not two heights/]
    expect(why.call("n 1 stone to 2 stone")).to match [1, /not a length/]
    expect(why.call("")).to match [1, /one reading/]
  end

  it "says a run as it would be typed, and reads it back" do
    typed = "n 100 to 320\n22.5 closed\n200 -40 to 260"
    run = read(typed)
    expect(read(described_class.say(run.readings)).readings).to eq run.readings
    expect(described_class.say([{ bearing_deg: 45.0, low_mm: 60.0, high_mm: 180.0 }])).to eq "ne 60 to 180"
  end

  it "gives an example that reads as the same heights in either unit" do
    runs = described_class::EXAMPLE.map do |units, heights|
      described_class.read(%w[n e s].map { |side| "#{side} #{heights}" }.join("\n"), units: units)
    end
    expect(runs.map(&:faults)).to eq [[], []]
    %i[low_mm high_mm].each do |side|
      metric, inches = runs.map { |run| run.readings.first.fetch(side) }
      expect([side, inches / metric]).to match [side, be_within(0.04).of(1)]
    end
    expect(described_class.read("n 3 1/4", units: "imperial").faults.first.why).to include "write 3 1/4 to 9 1/2"
  end
end
