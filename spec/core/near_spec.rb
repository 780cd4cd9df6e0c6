# frozen_string_literal: true

RSpec.describe Vestry::Core::Near do
  # On either side of a thousand-millionth: what a sum of Floats strays by, and what somebody measured.
  let(:inside) { 0.9e-9 }
  let(:outside) { 1.1e-9 }

  it "takes what lies a hair beyond a limit for the limit" do
    expect([described_class.at_least?(2 - inside, 2), described_class.at_least?(2 - outside, 2)]).to eq [true, false]
    expect([described_class.at_most?(2 + inside, 2), described_class.at_most?(2 + outside, 2)]).to eq [true, false]
    expect([described_class.equal?(2, 2 + inside), described_class.equal?(2, 2 + outside)]).to eq [true, false]
  end

  it "knows a range with both of its ends" do
    asked = [1 - outside, 1 - inside, 2, 3 + inside, 3 + outside]
    expect(asked.map { |value| described_class.within?(value, 1, 3) }).to eq [false, true, true, true, false]
  end

  it "rounds down and up past a hair" do
    expect([3 - inside, 3 - outside, 3.4].map { |value| described_class.floor(value) }).to eq [3, 2, 3]
    expect([3 + inside, 3 + outside, 3.4].map { |value| described_class.ceil(value) }).to eq [3, 4, 4]
  end
end
