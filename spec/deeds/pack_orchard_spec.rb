# frozen_string_literal: true

RSpec.describe Vestry::Deeds::PackOrchard do
  let(:here) { orchard }

  it "packs once for all who ask while it is under way, and anew afterwards" do
    jobs = []
    allow(Vestry::Deeds::Jobs::PackFiles).to receive(:enqueue) { |id| jobs << id }
    first, second = Array.new(2) { described_class.begin(here, by: "Orla") }
    expect([second, jobs]).to eq [first, [first]]
    Vestry::Records::Export[first].update(state: "done")
    third = described_class.begin(here, by: "Orla")
    expect(jobs).to eq [first, third]
  end
end
