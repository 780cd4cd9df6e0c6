# frozen_string_literal: true

RSpec.describe Vestry::Web::Contracts::Query do
  def read(**asked) = described_class.read(asked.transform_keys(&:to_s))

  it "reads each name as what it is, wherever it is asked" do
    expect(read(page: "2", row: " B ", from: "45", after: "2027", year: "2029", x: "-3.5", w: "60", variety: "7",
                state: "trouble", due: "yes", who: "Tam", span: "week", limb: "12", before: "90", q: "Skylark",
                paper: "letter", on: "2026-05-18", species: "apple", season: "2026"))
      .to eq(page: 2, row: "B", from: 45, after: 2027, year: 2029, x: -3.5, w: 60.0, variety: 7, state: "trouble",
             due: "yes", who: "Tam", span: "week", limb: 12, before: 90, q: "Skylark", paper: "letter",
             on: Date.new(2026, 5, 18), species: "apple", season: 2026)
  end

  { page: %w[0 -1 10001 two 1e3 ２], from: %w[44 360 north], state: %w[dead], due: %w[no], span: %w[month],
    limb: %w[0 2147483648 A], x: %w[NaN Infinity 1e9 here], year: %w[0 99999], paper: %w[a3 A4], species: %w[oak],
    on: %w[yesterday 2026-02-30], row: ["", "x" * 41], q: ["", "x" * 81], before: %w[0 -4] }.each do |name, wrong|
    it "passes over a #{name} that is none" do
      expect(wrong.map { |text| read(name => text) }.uniq).to eq [{}]
    end
  end

  it "passes over lists, tables, and names that it does not know" do
    expect(described_class.read("page" => ["2"], "row" => { "a" => "b" }, "drop" => "trees")).to eq({})
    expect(read(q: "a\u0000b\xFF").fetch(:q)).to eq "ab"
  end
end
