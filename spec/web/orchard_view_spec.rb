# frozen_string_literal: true

RSpec.describe Vestry::Web::OrchardView do
  let(:here) { orchard.tap { |place| tree(place) } }

  def looks(**moved)
    view = described_class.new(here, { x: 10.0, y: 20.0, w: 40.0 }, World::TODAY)
    Rack::Utils.parse_query(view.query(**moved)).slice("x", "y", "w").transform_values(&:to_f)
  end

  it "shows ten metres from its corner where no tree stands yet" do
    expect(Vestry::Records::Places.extent(orchard)).to eq [[0.0, 0.0, 10.0, 10.0], 0]
  end

  it "says of a walk that it shows a part, only where it does" do
    walk = ->(count) { described_class.walked(Array.new(count) { |i| Struct.new(:id).new(i) }) }
    most = described_class::MOST_WALKED
    expect([walk[most], walk[most + 1]]).to eq [nil, "The next #{most} of #{most + 1} trees"]
  end

  it "is moved by shares of what is seen, half as high as it is wide, and brought nearer or further" do
    expect(looks).to eq("x" => 10.0, "y" => 20.0, "w" => 40.0)
    expect(looks(east: 0.5)).to eq("x" => 30.0, "y" => 20.0, "w" => 40.0)
    expect(looks(north: 0.5)).to eq("x" => 10.0, "y" => 30.0, "w" => 40.0)
    expect(looks(times: 2)).to eq("x" => 10.0, "y" => 20.0, "w" => 80.0)
  end
end
