# frozen_string_literal: true

RSpec.describe "What came of it" do
  let!(:here) { orchard }
  let!(:apple) { tree(here) }
  let(:today) { Date.new(2026, 11, 1) }

  def visit(graft, on, **facts)
    Vestry::Records::Visit.create({ orchard_id: here.id, graft_id: graft.id, seen_on: on }.merge(facts))
  end
  def count(graft, season, **facts)
    Vestry::Records::Tally.create({ orchard_id: here.id, graft_id: graft.id, season: season,
                                    tallied_on: Date.new(season, 10, 5), alive: true }.merge(facts))
  end
  def made(tag, **facts) = graft(limb(apple, tag, length_mm: 2400), **facts)

  describe Vestry::Records::Outcomes do
    def told(**only) = described_class.new(here, today, **only)

    it "tells taking from lasting, and sticks from stubs" do
      took, blown, never, waiting = made("A", sticks: 3), made("B"), made("C"), made("D")
      count(took, 2026, sticks_alive: 2)
      visit(blown, Date.new(2026, 5, 20), verdict: "took")
      visit(blown, Date.new(2026, 8, 9), verdict: "failed")
      visit(never, Date.new(2026, 6, 1), buds: "dead", verdict: "failed")
      expect(told.stubs.map { |row| row.values_at(:take, :lost_later) })
        .to match_array [[true, false], [true, true], [false, false]]
      expect(told.total.slice(:takes, :trials)).to eq(takes: 2, trials: 3)
      expect(told.by("method", count: "sticks").first.slice(:takes, :trials)).to eq(takes: 2, trials: 3)
      expect(told.by("stub").map { |line| line[:kind] }).to eq ["60 mm to 80 mm"]
      waiting.update(lost_on: Date.new(2026, 7, 1), lost_cause: "browsed")
      expect(told.losses).to eq("browsed" => 1)
      expect(told(season: 2025).stubs).to eq []
    end

    it "knows every way of telling apart, and only this orchard's" do
      count(made("A"), 2026)
      count(graft(limb(tree(orchard))), 2026) rescue Sequel::ForeignKeyConstraintViolation
      described_class::BY.each_key { |by| expect([by, told.by(by).sum { |line| line[:trials] }]).to eq [by, 1] }
    end
  end

  describe Vestry::Records::TreeYears do
    it "sets what was planned beside what came of it, and measures the head" do
      a = made("A", grafted_on: Date.new(2025, 4, 20), stub_mm: 60)
      kept = limb(apple, "K")
      Vestry::Deeds::DecideLimb.call(kept, { role: "work", season: 2027 }, by: "Orla", season: 2026)
      count(a, 2025, above_mm: 20)
      count(a, 2026, above_mm: 42)
      told = described_class.new(Vestry::Records::Tree[apple.id], today)
      expect(told.rows.map { |row| [row.season, row.planned, row.worked, row.took] })
        .to eq [[2025, [], %w[A], %w[A]], [2027, %w[K], [], []]]
      expect([told.first, told.now]).to eq [2024, 2027]
      expect(told.measured.transform_values { |share| share.round(3) }).to eq(2025 => 0.556, 2026 => 0.745)
      expect(told.foreseen.keys).to eq [2025, 2026]
    end

    it "draws a past year by what was measured then, and a coming one grown on" do
      a = made("A", grafted_on: Date.new(2025, 4, 20), cut_mm: 800)
      count(a, 2025, growth_mm: 700)
      count(a, 2026, growth_mm: 900)
      standing = Vestry::Records::Tree[apple.id]
      year = ->(season) { Vestry::Drawings::DrawnLimb.all(standing, year: season,
                                                          now: 2026).map { |stand| [stand.graft&.id,
                                                            stand.shoot_mm&.round] } }
      expect([year.call(2024), year.call(2025), year.call(2026)]).to eq [[[nil, nil]], [[a.id, 700]], [[a.id, 900]]]
      expect(year.call(2031).first.last).to be > 1200
    end
  end

  it "learns how fast grafts grow back, and gives way slowly" do
    first = here.rulebook.value("reckoning.projection.regrow")
    expect(Vestry::Records::OwnGrowth.curve(here)).to eq first
    8.times { |i| count(made("L#{i}", stub_mm: 60), 2026, above_mm: 36) }
    learned = Vestry::Records::OwnGrowth.curve(here)
    expect(learned[0]).to be_within(1e-9).of((8 * 0.36 + 6 * first[0]) / 14)
    expect(learned.drop(1)).to eq first.drop(1)
    expect(Vestry::Records::OwnGrowth.rulebook(here).value("reckoning.projection.regrow")).to eq learned
  end

  describe Vestry::Records::ScaffoldReport do
    it "says which are limbs, who has how much, and what to do" do
      variety(here, "Skylark Russet")
      other = variety(here, "Tollgate Amber")
      strong, weak = made("A", stub_mm: 60), made("B", stub_mm: 60, variety_id: other.id)
      count(strong, 2026, above_mm: 50, sticks_alive: 1, angle_deg: 10, growth_mm: 1400)
      count(weak, 2026, above_mm: 20, sticks_alive: 1, waist: true)
      told = described_class.new(Vestry::Records::Tree[apple.id], today)
      expect(told.lines.map { |line| line.told.map { |each| each[:code] } })
        .to eq [%w[scaffold_is_limb scaffold_spread scaffold_head_back], %w[scaffold_grows scaffold_pinched]]
      shares = told.varieties.to_h { |part| [part[:id], part[:shorten].round(2)] }
      expect(shares).to eq("Skylark Russet" => 0.42, "Tollgate Amber" => 0.0)
      expect(told.balance[:lean]).to be > 0
    end
  end

  describe Vestry::Records::CountRow do
    it "goes down a row, passes over what is counted, and comes back to what was left" do
      first, second = made("A"), graft(limb(tree(here, number: 2)))
      lost = made("B", lost_on: Date.new(2026, 6, 1), lost_cause: "failed")
      row = -> { described_class.new(here, "A", 2026) }
      expect([row.call.lines.map(&:id), row.call.after(first).id, row.call.after(second).id])
        .to eq [[first.id, second.id], second.id, first.id]
      count(second, 2026)
      expect(row.call.left.map(&:id)).to eq [first.id]
      expect(row.call.page(1).map { |graft| [graft.id, row.call.counted?(graft)] })
        .to eq [[first.id, false], [second.id, true]]
      visit(first, Date.new(2026, 6, 1), verdict: "failed")
      expect(row.call.lines.map(&:id)).to eq [second.id]
      visit(first, Date.new(2026, 7, 1), buds: "leafing")
      expect(described_class.all(here, 2026)).to eq [{ row: "A", grafts: 2, counted: 1 }]
      expect(row.call.lines.map(&:id)).not_to include lost.id
    end
  end
end
