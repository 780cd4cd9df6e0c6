# frozen_string_literal: true

RSpec.describe Vestry::Records::WoodStore, "and how often it asks" do
  it "is as many times for many bundles as for two" do
    here = orchard
    kind = variety(here)
    make = lambda do |count|
      count.times do
        Vestry::Deeds::MakeBundle.call(here, { variety: kind.id, source: "a neighbour", cut_on: Date.new(2026, 1, 10),
                                               count: 2, length_mm: 180.0, ends: "sealed",
                                               checked: Vestry::Deeds::MakeBundle::CHECKS.keys.map(&:to_s) },
                                       by: "Orla", today: Date.new(2026, 1, 10))
      end
    end
    asked = lambda do
      store = described_class.new(Vestry::Records::Orchard[here.id], Date.new(2026, 2, 1))
      before = Vestry::Records::QueryCount.so_far
      store.for_stubs(season: 2026)
      Vestry::Records::QueryCount.so_far - before
    end
    make[2]
    asked.call
    few = asked.call
    make[6]
    expect([few.positive?, asked.call]).to eq [true, few]
  end
end
