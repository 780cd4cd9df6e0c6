# frozen_string_literal: true

RSpec.describe Vestry::Core::Survey::NextTag do
  it "follows the tags that are taken, however they are written" do
    expect(described_class.after([])).to eq "A"
    expect(described_class.after(%w[a B D])).to eq "C"
    expect(described_class.after([*"A".."Z"])).to eq "AA"
    expect(described_class.after(%w[A B B1 b2], parent: "b")).to eq "B3"
  end
end
