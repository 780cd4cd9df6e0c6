# frozen_string_literal: true

# A limb that ends below the place at which it was to be worked, or stands on wood that is to be cut off: every page
# asks for another place.
RSpec.describe "The place of a planned limb" do
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

  it "is asked for again where the limb broke below it, and nothing is sawn or grafted there until it is given" do
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

  it "stands where the limb was sawn there beforehand, to the eighth of an inch" do
    Vestry::Deeds::RecordLimbEvent.call(planned, { kind: "headed", happened_on: today, left_mm: 1498.6 },
                                        by: "Orla", today: today)
    expect([row.complete?, row.place_mm.to_f, cuts]).to eq [true, 1498.6, 1]
    expect(Vestry::Records::TreePlan.new(Vestry::Records::Tree[standing.id], today).faults.map { |each| each[:code] })
      .not_to include "plan_cut_beyond"
    expect(Vestry::Records::BrokenLimbs.of(here, today)).to eq []
    again = { role: "work", technique: "rind", variety: row.variety_id, cut: row.place_mm.to_f, season: 2026,
              against_reason: "sawn in winter" }
    expect { Vestry::Deeds::DecideLimb.call(row.limb, again, by: "Orla", season: 2026) }.not_to raise_error
    made = Vestry::Deeds::LogGraft.call(row.limb, { grafted_on: today, technique: "rind", variety_id: row.variety_id,
                                                    stub_mm: 50, cut_mm: row.place_mm, sticks: 2, grafter: "Orla",
                                                    wrap: "stretch-tape", seal: "wax", cover: "wax-only" },
                                        by: "Orla", today: today)
    expect(made.cut_mm).to eq 1498.6
  end

  describe "on a branch" do
    let!(:branch) { limb(standing, "A1", parent_id: planned.id, fork_mm: 900, girth_mm: 160) }

    def decide(limb, **facts)
      Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[limb.id],
                                     { role: "work", technique: "rind", variety: row.variety_id, season: 2026,
                                       against_reason: "it broke there", **facts }, by: "Orla", season: 2026)
    end

    def fresh = Vestry::Records::Orchard[here.id]
    def faults = Vestry::Records::TreePlan.new(Vestry::Records::Tree[standing.id], today).faults
    def comes_off = faults.select { |each| each[:code] == "plan_comes_off" }.map { |each| each[:tag] }
    def waiting = fresh.planned(:waiting, 2026).rows

    it "is none where the limb that it grows from is to be cut below it" do
      decide(branch, cut: 500.0)
      expect([comes_off, waiting.map(&:complete?), fresh.planned(:cuts, 2026).rows.size]).to eq [[], [true, true], 2]
      expect { decide(planned, cut: 609.6, against_reason: "") }
        .to raise_error(Vestry::Deeds::Refused, /24 in is below its branch that is grafted, or is to be/)
      decide(planned, cut: 609.6)
      expect(comes_off).to eq ["A1"]
      expect(waiting.to_h { |each| [each.limb.tag, each.complete?] }).to eq("A" => true, "A1" => false)
      expect(fresh.planned(:cuts, 2026).rows.map { |each| each.limb.tag }).to eq ["A"]
      expect(fresh.stub_windows(today).stubs.map { |stub| stub.row.limb.tag }).to eq ["A"]
      line = Vestry::Web::Headline.new(fresh, today)
      told = "#{branch.label} is to be worked, but comes off with A, which is to be cut at 24 in, below it, in 2026"
      expect([line.plan, line.limb(Vestry::Records::Limb[branch.id])])
        .to eq ["#{told}.", "#{told}: choose one of the two."]
    end

    it "is none where that one, or one further down, is to come off or to be headed back below it" do
      twig = limb(standing, "A1x", parent_id: branch.id, fork_mm: 300, girth_mm: 160)
      high = limb(standing, "A2", parent_id: planned.id, fork_mm: 2000, girth_mm: 160)
      [twig, high].each { |each| decide(each, cut: 400.0) }
      { "lift" => %w[A1x A2], "renew" => %w[A2] }.each do |role, tags|
        Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[planned.id], { role: role, season: 2026 }, by: "Orla",
                                                                                                        season: 2026)
        expect([role, comes_off]).to eq [role, tags]
      end
    end

    it "is none for a bare stretch either, on that limb or on a branch of it" do
      stretch = lambda do |tag, on, at|
        site = Vestry::Deeds::MarkSite.call(standing, { tag: tag, limb_id: on.id, at_mm: at, bearing_deg: 90 },
                                            by: "Orla")
        Vestry::Deeds::DecideSite.call(site, { role: "work", technique: "side-bark", season: 2026 }, by: "Orla",
                                                                                                    season: 2026)
      end
      low, high, on_branch = stretch["S1", planned, 600.0], stretch["S2", planned, 610.0], stretch["S3", branch, 100.0]
      decide(planned, cut: 609.6)
      rows = [low, high, on_branch].map { |row| row.class[row.id] }
      expect(rows.map { |row| row.comes_off_with&.limb_id }).to eq [nil, planned.id, planned.id]
      told = faults.select { |each| each[:stretch] }
      expect(told.map { |each| [each[:code], each[:tag], each[:limb]] })
        .to match_array [["plan_comes_off", "S2", planned.id], ["plan_comes_off", "S3", branch.id]]
      Vestry::Deeds::Hide.call(rows[1].site, by: "Orla")
      expect(comes_off).to eq ["S3"]
      # Where nothing is sawn off, the stretch stays.
      Vestry::Deeds::DecideLimb.call(planned, { role: "nurse" }, by: "Orla", season: 2026)
      expect(comes_off).to eq []
    end

    it "is asked of a nurse only where it would be gone before it can feed a graft" do
      Vestry::Deeds::DecideLimb.call(branch, { role: "nurse" }, by: "Orla", season: 2026)
      decide(planned, cut: 609.6)
      expect(comes_off).to eq ["A1"]
      decide(limb(standing, "B", bearing_deg: 200), cut: 700.0)
      decide(planned, cut: 600.0, season: 2028)
      expect(comes_off).to eq []
    end
  end
end
