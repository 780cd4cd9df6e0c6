# frozen_string_literal: true

# What is kept for later is to be worked once its season is the one that is planned for, on every page.
RSpec.describe Vestry::Records::Deferred do
  let(:here) { orchard }
  let(:stock) { tree(here) }
  let!(:kept) { limb(stock, "B", girth_mm: 250, length_mm: 2400) }
  let(:steward) { "Orla" }

  def decide(**said) = Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[kept.id], said, by: steward, season: 2026)

  def row = Vestry::Records::Limb[kept.id].planned

  it "is later until its season is planned for, and work from then on" do
    decide(role: "later", season: 2027)
    expect([2025, 2026, 2027, 2028].map { |planning| row.role_in(planning) }).to eq %w[later later work work]
  end

  it "is later though it was said to be work, while its season is to come" do
    decide(role: "work", season: 2028)
    expect([row.role, row.role_in(2027), row.role_in(2028)]).to eq %w[later later work]
  end

  it "leaves every other role as it is" do
    decide(role: "backup", season: 2027)
    expect([2026, 2028].map { |planning| row.role_in(planning) }).to eq %w[backup backup]
  end

  it "is as drawn from the side and from above" do
    decide(role: "later", season: 2027)
    drawn = lambda do |planning|
      [Vestry::Drawings::DrawnLimb.all(Vestry::Records::Tree[stock.id], planning: planning).first.state,
       Vestry::Records::Crowns.of(here, [stock.id], planning: planning).fetch(stock.id).first.state,
       Vestry::Records::TreePlan.new(Vestry::Records::Tree[stock.id], Date.new(planning, 2, 10)).role(kept)]
    end
    expect([drawn[2026], drawn[2027]]).to eq [%w[later later later], %w[work work work]]
  end

  it "keeps its version when its form is sent back unchanged in its season" do
    decide(role: "later", season: 2027)
    before = row.version
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[kept.id], { role: row.role_in(2027), season: 2027 },
                                   by: steward, season: 2027)
    expect(row.version).to eq before
  end

  it "is put off by a season when it is pressed to be later in its own, and worked now when pressed to be work" do
    decide(role: "later", season: 2027)
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[kept.id], { role: "later" }, by: steward, season: 2027)
    expect([row.season, row.role_in(2027)]).to eq [2028, "later"]
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[kept.id], { role: "work" }, by: steward, season: 2027)
    expect([row.season, row.role_in(2027)]).to eq [2027, "work"]
  end

  it "is walked to as a bare stretch too" do
    site = Vestry::Records::Site.create(orchard_id: here.id, tree_id: stock.id, limb_id: kept.id, tag: "s1", at_mm: 400,
                                        bearing_deg: 90, diameter_mm: 60)
    Vestry::Deeds::DecideSite.call(site, { role: "later", technique: "side-bark", variety: variety(here).id },
                                   by: steward, season: 2026)
    waiting = ->(season) { Vestry::Records::PlannedSites.waiting(here, season).map { |each| each.site.tag } }
    expect([waiting[2026], waiting[2027]]).to eq [[], %w[s1]]
  end
end
