# frozen_string_literal: true

RSpec.describe Vestry::Core::Plan::LongCut do
  let(:book) { Vestry::Core::Rulebook.shipped }

  def heavy(mm, share = nil) = described_class.heavy(mm, share, book)&.fetch(:code)

  it "calls a limb heavy from the rulebook's thickness on, and from its share of the head on" do
    thick, share = %w[heavy_diameter heavy_share].map { |name| book.value("reckoning.pace.#{name}") }
    expect([thick - 1, thick, thick + 1].map { |mm| heavy(mm) }).to eq [nil, "heavy_diameter", "heavy_diameter"]
    expect([share - 0.01, share, 1.0].map { |part| heavy(20, part) }).to eq [nil, "heavy_share", "heavy_share"]
    expect(heavy(thick, 1.0)).to eq "heavy_diameter"
    expect([heavy(nil), heavy(nil, share)]).to eq [nil, "heavy_share"]
  end

  it "cuts beyond the fresh cut, and no further than halfway to the tip" do
    extra = book.value("reckoning.pace.long_extra")
    expect(described_class.at(500, 5000, book)).to eq 500 + extra
    expect(described_class.at(500, 700, book)).to eq 600
    expect(described_class.at(500, 500 + 2 * extra, book)).to eq 500 + extra
  end
end
