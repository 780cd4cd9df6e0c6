# frozen_string_literal: true

RSpec.describe Vestry::Core::Graft::GraftKind, :core do
  it "tells stub, side, bud and plant alongside apart, and what is set into a side from what stands on a stub" do
    kinds = { "rind" => "stub", "cleft" => "stub", "side-bark" => "side", "shield-bud" => "bud", "chip-bud" => "bud",
              "approach" => "approach" }
    expect(kinds.keys.to_h { |method| [method, described_class.of(method)] }).to eq kinds
    expect([true, false].map { |headed| described_class.of("tongued-side", headed: headed) }).to eq %w[stub side]
    expect(described_class.of("side-bark", headed: true)).to eq "side"
  end

  it "asks of each kind how it is finished, and nothing that it does not know" do
    expect(described_class.finishes("rind")).to eq %w[wrap seal cover perch]
    expect(described_class.finishes("side-bark")).to eq %w[wrap seal cover]
    expect(described_class.finishes("approach")).to eq %w[seal]
    expect(described_class.finishes("shield-bud")).to eq []
    expect(described_class.asks?("bud", "pace")).to be true
  end

  it "lets a bud's callus knit without the warmth of a bag that it has not" do
    days = (0..60).map { |n| { date: (Date.new(2026, 8, 1) + n).iso8601, min_c: 8.0, max_c: 18.0 } }
    knit = lambda do |cover|
      reckon("care", { graft: { grafted_on: "2026-08-05", method: "shield-bud", species: "apple", sticks: 1,
                                cover: cover }, weather: days, today: "2026-09-20" })[:tasks]
        .map { |task| task.slice(:rule, :due) }
    end
    expect(knit["foil-and-bag"]).to eq knit["tape-only"]
  end
end
