# frozen_string_literal: true

RSpec.describe Vestry::Records::Nurses do
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let!(:nurse) { limb(stock, "N", bearing_deg: 200, girth_mm: 150) }

  def nurses_on(on)
    described_class.new(Vestry::Records::Orchard[here.id], on).all.map { |each| [each.limb.tag, each.since] }
  end

  it "speaks of a nurse limb from the very day on which its tree was grafted" do
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    expect(nurses_on(World::TODAY)).to eq []
    graft(limb(stock, "A"), grafted_on: World::TODAY)
    expect(nurses_on(World::TODAY - 1)).to eq []
    expect(nurses_on(World::TODAY)).to eq [["N", World::TODAY]]
  end

  it "speaks of none that has come off" do
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: 2026)
    graft(limb(stock, "A"), grafted_on: World::TODAY - 30)
    Vestry::Deeds::TakeOff.call(nurse.reload, on: World::TODAY, today: World::TODAY, by: "Orla")
    expect(nurses_on(World::TODAY)).to eq []
  end
end
