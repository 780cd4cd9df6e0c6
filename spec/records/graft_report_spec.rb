# frozen_string_literal: true

RSpec.describe Vestry::Records::GraftReport do
  let(:here) { orchard }
  let(:made) { graft(limb(tree(here))) }

  def signs
    described_class.new(Vestry::Records::Graft[made.id], World::TODAY).causes[:causes].flat_map do |each|
      each[:evidence].map { |sign| sign[:sign] }
    end
  end

  def visit(day, **seen)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: day, **seen)
  end

  it "counts for a cause what the failing visit itself saw, and nothing that was seen later" do
    visit(Date.new(2026, 5, 12), verdict: "failed", buds: "dead", pests: "aphids", seal_state: "cracked")
    visit(Date.new(2026, 5, 14), buds: "dead", wrap_state: "biting")
    expect(signs).to include("pests")
    expect(signs).not_to include("tape-biting")
  end

  it "looks for a cause over the first and the last weather of one that stood for ten years" do
    made.update(grafted_on: Date.new(2016, 4, 20))
    rows = (Date.new(2016, 1, 1)..World::TODAY).map do |day|
      { day: day, min_c: 5, max_c: 20, rain_mm: 3, gust_ms: day == Date.new(2026, 5, 9) ? 25 : 5 }
    end
    Vestry::Records::SiteWeather.keep(here, rows)
    visit(Date.new(2017, 6, 1), verdict: "took", longest_shoot_mm: 600)
    visit(Date.new(2026, 5, 12), verdict: "failed")
    expect(signs).to eq ["gale"]
  end

  it "looks for no cause where somebody said by what it was lost" do
    visit(Date.new(2026, 5, 12), verdict: "failed", pests: "aphids")
    told = %w[cut-off unknown failed].to_h do |cause|
      made.update(lost_on: Date.new(2026, 5, 12), lost_cause: cause)
      [cause, described_class.new(Vestry::Records::Graft[made.id], World::TODAY).causes.nil?]
    end
    expect(told).to eq("cut-off" => true, "unknown" => false, "failed" => false)
  end
end
