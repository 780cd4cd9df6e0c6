# frozen_string_literal: true

RSpec.describe Vestry::Core::Survey::Taper do
  let(:book) { Vestry::Core::Rulebook.shipped }

  it "loses seven tenths of the base along the limb, evenly" do
    expect([0, 500, 1000].map { |at| described_class.diameter(100, 1000, at, book).round(6) }).to eq [100, 65, 30]
  end

  it "finds the place where a limb is so thick" do
    [100.0, 80.0, 30.0].each do |mm|
      at = described_class.place(100, 1000, mm, book)
      expect(described_class.diameter(100, 1000, at, book)).to be_within(1e-9).of(mm)
    end
  end

  it "finds the stretch of a limb that is between two thicknesses, from the fork where any thickness serves" do
    expect(described_class.stretch(100, 0.07, 1000, [30, 80]).map { |at| at.round(6) }).to eq [285.714286, 1000.0]
    expect(described_class.stretch(100, 0.07, 1000, [65, nil])).to match [0.0, be_within(1e-9).of(500)]
    expect(described_class.stretch(100, 0.07, 1000, [65, 120])).to match [0.0, be_within(1e-9).of(500)]
    expect(described_class.stretch(100, 0.07, 1000, [100, nil])).to be_nil
  end
end
