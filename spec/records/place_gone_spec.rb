# frozen_string_literal: true

# A limb that ends below the place at which it was to be worked: every page asks for another.
RSpec.describe "The place of a planned limb that broke" do
  let(:here) { orchard(units: "imperial") }
  let(:standing) { tree(here) }
  let!(:planned) { limb(standing, "A", length_mm: 2700) }
  let(:today) { World::TODAY }

  before do
    Vestry::Deeds::DecideLimb.call(planned, { role: "work", technique: "rind", variety: variety(here).id,
                                              cut: 1500.0, season: 2026 }, by: "Orla", season: 2026)
  end

  def row = Vestry::Records::Limb[planned.id].planned
  def headline = Vestry::Web::Headline.new(Vestry::Records::Orchard[here.id], today).limb(row.limb)
  def cuts = Vestry::Records::PlanQueries.cut_list(here, 2026).count

  it "is asked for again, and nothing is sawn or grafted there until it is given" do
    expect([row.complete?, row.place_mm.to_f, cuts]).to eq [true, 1500.0, 1]
    broke = Vestry::Deeds::RecordLimbEvent.call(planned, { kind: "broken", happened_on: today, left_mm: 762 },
                                                by: "Orla", today: today)
    expect([row.complete?, row.place_mm, row.head_cut_mm, cuts]).to eq [false, nil, nil, 0]
    expect(headline).to eq "#{planned.label} is 30 in long now, and was to be worked at 4 ft 11 in: choose its place " \
                           "again."
    asked = -> { Vestry::Records::BrokenLimbs.of(here, today).map(&:id) }
    expect(asked.call).to eq [broke.id]
    Vestry::Deeds::DecideLimb.call(row.limb, { role: "work", technique: "rind", variety: row.variety_id, cut: 600.0,
                                               season: 2026 }, by: "Orla", season: 2026)
    expect([row.complete?, row.place_mm.to_f, cuts, asked.call]).to eq [true, 600.0, 1, []]
  end
end
