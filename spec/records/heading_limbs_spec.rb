# frozen_string_literal: true

RSpec.describe Vestry::Records::HeadingLimbs do
  let(:here) { orchard }
  let(:today) { Date.new(2026, 11, 20) }
  let(:amber) { variety(here, "Amber") }
  let(:beech) { variety(here, "Beech") }

  def told(shoots) = described_class.new(here, { amber.id => shoots }, today).of(amber.id)

  it "names limbs of trees that carry it and grafts that have stood, and none that is planned, young, lost or gone" do
    carrier = tree(here, variety_id: amber.id)
    own = limb(carrier, "A", girth_mm: 200)
    limb(carrier, "B", girth_mm: 200, variety_id: beech.id)
    planned = limb(carrier, "C", girth_mm: 260)
    Vestry::Deeds::DecideLimb.call(planned, { role: "work", variety: beech.id }, by: "Orla", season: 2027)
    limb(carrier, "D", girth_mm: 300, gone_on: Date.new(2026, 3, 1))
    other = tree(here, variety_id: beech.id)
    old, young, lost = %w[A B C].map { |tag| limb(other, tag) }
    [[old, 2023], [young, 2026], [lost, 2023]].each do |stock, year|
      made = graft(stock, variety_id: amber.id, grafted_on: Date.new(year, 4, 20))
      alive = stock != lost
      Vestry::Records::Tally.create(orchard_id: here.id, graft_id: made.id, season: year, alive: alive, above_mm: 38,
                                    tallied_on: Date.new(year, 10, 1))
    end
    expect(told(30)).to include(limbs: [own, old], shoots: 12, short: 18)
    expect(told(6)[:limbs]).to eq [own]
  end
end
