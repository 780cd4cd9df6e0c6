# frozen_string_literal: true

RSpec.describe Vestry::Drawings::BundleSticks do
  def drawn(count, width: described_class::WIDE)
    sticks = Array.new(count) do |i|
      described_class::BundleStick.new(number: i + 1, mm: 8.0, for: ("B5 A" if i == 7), gone: i == 2)
    end
    described_class.new(sticks, width: width, pencil_mm: 7.0, units: "metric", title: "The sticks of Wood 1")
  end

  it "lays as many to a row as there is room for" do
    rows = ->(width) { drawn(20, width: width).discs.map { |disc| disc[:floor] }.tally.values }
    expect([rows[860], rows[344]]).to eq [[15, 5], [6, 6, 6, 2]]
    expect(drawn(20, width: 344).discs.map { |disc| disc[:x] + disc[:r] }.max).to be < 344
  end

  it "lifts what goes to a stub, and outlines what left" do
    discs = drawn(9).discs
    expect(discs.map { |disc| disc[:lifted] }.each_index.select { |i| discs[i][:lifted] }).to eq [7]
    expect(discs.map { |disc| disc[:kind] }).to eq ["here"] * 2 + ["gone"] + ["here"] * 6
    expect(discs[7][:y]).to eq discs[6][:y] - described_class::LIFT
  end

  it "is drawn for a desk and for a phone" do
    both = Nokogiri::HTML5.fragment(drawn(20).both).css("svg")
    expect(both.map { |each| [each["class"].split.last, each["viewBox"].split[2]] })
      .to eq [%w[wide 860], %w[narrow 344]]
    expect(both.map { |each| each.css("[aria-label^='stick ']").size }).to eq [20, 20]
  end
end
