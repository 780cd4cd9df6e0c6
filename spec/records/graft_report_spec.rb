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
end
