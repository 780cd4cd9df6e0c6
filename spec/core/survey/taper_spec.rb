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
end
