# frozen_string_literal: true

RSpec.describe Vestry::Records::LaterWood do
  it "has nothing over, nothing young and nothing standing of a variety that nobody plans" do
    here = orchard
    kind = variety(here)
    wood = described_class.new(here, 2026, World::TODAY)
    expect([wood.over(kind.id), wood.young(kind.id), wood.standing?(kind.id)]).to eq [0, 0.0, false]
  end
end
