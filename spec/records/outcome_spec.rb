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

  it "counts the living sticks by the last that says, and by the later of one day" do
    pair = made("A", sticks: 3)
    visit(pair, Date.new(2026, 6, 20), sticks_alive: 1)
    visit(pair, Date.new(2026, 6, 20), sticks_alive: 2)
    visit(pair, Date.new(2026, 6, 2), sticks_alive: 3)
    visit(pair, Date.new(2026, 7, 2), buds: "swelling")
    expect(Vestry::Records::Graft[pair.id].living_sticks).to eq 2
    count(pair, 2026, sticks_alive: 0)
    expect(Vestry::Records::Graft[pair.id].living_sticks).to eq 0
  end

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

    it "tells weeks by their Monday, stubs by size and wood by months, six at most" do
      cut = { "A" => Date.new(2026, 1, 2), "B" => Date.new(2025, 9, 30), "C" => Date.new(2026, 3, 24) }
      stubs = { "A" => 79.9, "B" => 80, "C" => 130 }
      cut.each do |tag, on|
        kept = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: variety(here, "Of #{tag}").id,
                                              source: "row S", cut_on: on)
        Vestry::Records::Stick.add(kept, [8.0])
        grafted = made(tag, stub_mm: stubs[tag], grafted_on: Date.new(2026, 4, 22))
        count(grafted, 2026)
        kept.sticks_dataset.update(graft_id: grafted.id)
      end
      expect(told.by("wood").map { |line| line[:kind] }).to match_array ["3 months", "6 months", "0 months"]
      expect(told.by("week").map { |line| line[:kind] }).to eq ["from 20 Apr"]
      expect(told.by("stub").map { |line| line[:kind] })
        .to match_array ["60 mm to 80 mm", "80 mm to 120 mm", "120 mm and over"]
    end

    it "tells the warmth of the first fortnight, and nothing where too little of it is known" do
      warm, unknown = made("A", grafted_on: Date.new(2026, 4, 1)), made("B", grafted_on: Date.new(2026, 4, 18))
      [warm, unknown].each { |each| count(each, 2026) }
      # Means of 13.5 and 9.5 in turn, 11.5 over the fortnight; of the other graft's, nine days are known.
      (Date.new(2026, 4, 1)..Date.new(2026, 4, 26)).each do |day|
        low = day.day.odd? ? 10 : 6
        Vestry::DB[:weather_days].insert(orchard_id: here.id, day: day, min_c: low, max_c: low + 7)
      end
      expect(told.stubs.to_h { |row| [row[:weather], row[:take]] }).to eq("9 to 12 °C" => true, "not recorded" => true)
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
      # Half of the head is kept; of the other, on 60 mm, comes back the section of a shoot of 450 mm, with 6 mm more on
      # each side in its second season.
      foot = 2.5 + 0.0095 * 450
      expect(told.foreseen).to match(2025 => be_within(1e-9).of(0.5 + 0.5 * (foot / 60)**2),
                                     2026 => be_within(1e-9).of(0.5 + 0.5 * ((foot + 12) / 60)**2))
    end

    it "leaves the years gone by as they were when a nurse limb comes off" do
      a = made("A", grafted_on: Date.new(2025, 4, 20), stub_mm: 60)
      nurse = limb(apple, "N")
      limb(apple, "O")
      [[2025, 20], [2026, 42]].each { |year, above| count(a, year, above_mm: above) }
      head = -> { described_class.new(Vestry::Records::Tree[apple.id], today) }
      was = head.call.measured.transform_values { |share| share.round(6) }
      # Two of three limbs alike stood in both.
      expect(was).to match(2025 => be_within(1e-3).of(2 / 3.0 + 1 / 27.0),
                           2026 => be_within(1e-3).of(2 / 3.0 + 0.49 / 3))
      foreseen = head.call.foreseen
      nurse.update(gone_on: Date.new(2026, 12, 20))
      expect(head.call.measured.transform_values { |share| share.round(6) }).to eq was
      expect(head.call.foreseen).to eq foreseen
      # Of the season in which it came off it is no part any more.
      nurse.update(gone_on: Date.new(2026, 3, 20))
      expect(head.call.measured.transform_values { |share| share.round(6) })
        .to match(2025 => was[2025], 2026 => be_within(1e-6).of(was[2026] - 1 / 3.0))
    end

    it "plans no season for a nurse limb" do
      Vestry::Deeds::DecideLimb.call(limb(apple, "N"), { role: "nurse", season: 2028 }, by: "Orla", season: 2026)
      expect(described_class.new(Vestry::Records::Tree[apple.id], today).rows).to eq []
    end

    it "has the years of what was made where no plan was kept" do
      made("A", grafted_on: Date.new(2025, 4, 20), stub_mm: 60)
      Vestry::Records::PlanLimb.dataset.delete
      Vestry::Records::Plan.dataset.delete
      told = described_class.new(Vestry::Records::Tree[apple.id], today)
      expect(told.rows.map { |row| [row.season, row.planned, row.worked] }).to eq [[2025, [], %w[A]]]
    end

    it "draws a past year by what was measured then, and a coming one grown on" do
      a = made("A", grafted_on: Date.new(2025, 4, 20), cut_mm: 800)
      count(a, 2025, growth_mm: 700)
      count(a, 2026, growth_mm: 900)
      standing = Vestry::Records::Tree[apple.id]
      year = ->(season) { Vestry::Drawings::DrawnLimb.all(standing, year: season, planning: 2026,
                                                          now: 2026).map { |stand| [stand.graft&.id,
                                                            stand.shoot_mm&.round] } }
      # Of the first year's growth half was left in winter.
      expect([year.call(2024), year.call(2025), year.call(2026)]).to eq [[[nil, nil]], [[a.id, 700]], [[a.id, 1250]]]
      expect(year.call(2031).first.last).to be > 1250
    end

    it "draws a past year's limb as long and as steep as it was, whatever broke or was tied down since" do
      long = limb(apple, "L", length_mm: 2400, rise_deg: 45)
      later = Date.new(2027, 1, 5)
      on = lambda do |day, **facts|
        Vestry::Deeds::RecordLimbEvent.call(Vestry::Records::Limb[long.id], { happened_on: day, **facts }, by: "Orla",
                                            today: later)
      end
      on[Date.new(2026, 2, 10), kind: "broken", left_mm: 1500.0]
      on[Date.new(2026, 11, 20), kind: "tied-down", rise_deg: 10]
      on[Date.new(2026, 12, 1), kind: "headed", left_mm: 900.0]
      drawn = lambda do |season|
        one = Vestry::Drawings::DrawnLimb.all(Vestry::Records::Tree[apple.id], year: season, now: 2028, planning: 2026)
          .find { |stand| stand.limb.tag == "L" }.limb
        [one.length_mm.to_f, one.rise_deg.to_f]
      end
      expect([2025, 2026, 2027].map(&drawn)).to eq [[2400.0, 45.0], [1500.0, 45.0], [900.0, 10.0]]
      expect(Vestry::Records::Limb[long.id].length_mm).to eq 900
    end
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
      # Its row, the rows together and the trees that are left say the same.
      autumn = Date.new(2026, 10, 20)
      told = -> { [*described_class.all(here, autumn).first.values_at(:grafts, :counted),
                   described_class.left_trees(here, autumn)] }
      expect(told.call).to eq [1, 1, []]
      visit(first, Date.new(2026, 7, 1), buds: "leafing")
      expect(told.call).to eq [2, 1, [first.limb.tree_id]]
      expect(described_class.all(here, autumn)).to eq [{ row: "A", grafts: 2, counted: 1 }]
      count(first, 2025, alive: false, tallied_on: Date.new(2026, 7, 2))
      expect([told.call, row.call.asked.size]).to eq [[1, 1, []], 1]
      count(first, 2026, alive: false, tallied_on: Date.new(2026, 10, 2))
      expect([told.call, row.call.asked.size]).to eq [[2, 2, []], 2]
      expect(row.call.lines.map(&:id)).not_to include lost.id
    end

    it "asks for no count of what an earlier one found to be a limb, and keeps what is counted all the same" do
      grown, young = made("A", stub_mm: 50), made("B", stub_mm: 50)
      told = lambda do |season|
        row = described_class.new(here, "A", season)
        [row.lines.size, row.left.map(&:id), described_class.all(here, Date.new(season, 10, 20)),
         described_class.left_trees(here, Date.new(season, 10, 20)).size,
         [grown, young].map { |graft| described_class.waits?(graft, season) }]
      end
      all = [grown.id, young.id]
      expect(told[2026]).to eq [2, all, [{ row: "A", grafts: 2, counted: 0 }], 1, [true, true]]
      count(grown, 2026, above_mm: 36, tallied_on: Date.new(2026, 10, 1))
      count(young, 2026, above_mm: 35, tallied_on: Date.new(2026, 10, 1))
      expect(told[2026]).to eq [2, [], [{ row: "A", grafts: 2, counted: 2 }], 0, [false, false]]
      expect(told[2027]).to eq [2, [young.id], [{ row: "A", grafts: 1, counted: 0 }], 1, [false, true]]
      expect(described_class.new(here, "A", 2027).after(grown).id).to eq young.id
      count(grown, 2027, above_mm: 40, tallied_on: Date.new(2027, 10, 1))
      expect(told[2027]).to eq [2, [young.id], [{ row: "A", grafts: 2, counted: 1 }], 1, [false, true]]
      # Two sticks that live are two stems.
      count(young, 2027, above_mm: 26, sticks_alive: 2, tallied_on: Date.new(2027, 10, 1))
      expect(told[2028]).to eq [2, [], [], 0, [false, false]]
    end

    it "calls a limb by SQL what the aftercare calls one" do
      rnd = Random.new(7)
      book = here.rulebook
      12.times do |n|
        one = graft(limb(tree(here, number: n + 10)), stub_mm: 40 + rnd.rand(20))
        counts = Array.new(1 + rnd.rand(3)) do |year|
          { on: Date.new(2026 + year, 10, 1), above_mm: rnd.rand(5).zero? ? nil : 10 + rnd.rand(35),
            sticks_alive: [nil, 1, 2, 0].sample(random: rnd) }
        end
        counts.each { |each| count(one, each[:on].year, tallied_on: each[:on], **each.except(:on)) }
        (2026..2029).each do |season|
          by_sql = Vestry::DB[:grafts].where(id: one.id)
            .where(Vestry::Records::GraftOutcomeSql.limb(book, season)).any?
          since = Vestry::Core::Tally::Scaffold.since(one.stub_mm.to_f, counts, rulebook: book)[:scaffold_on]
          expect([season, counts, by_sql]).to eq [season, counts, !since.nil? && since.year < season]
        end
      end
    end

    it "leaves out what was made after the season's last day" do
      autumn, winter = made("A", grafted_on: Date.new(2026, 10, 31)), made("B", grafted_on: Date.new(2026, 11, 1))
      of = lambda do |season|
        [described_class.new(here, "A", season).lines.map(&:id), described_class.all(here, Date.new(season, 10, 20))]
      end
      expect([of[2026], of[2027]])
        .to eq [[[autumn.id], [{ row: "A", grafts: 1, counted: 0 }]],
                [[autumn.id, winter.id], [{ row: "A", grafts: 2, counted: 0 }]]]
      expect(described_class.left_trees(here, Date.new(2025, 10, 20))).to eq []
    end
  end


  it "counts what was seen on the very day, and not what is seen the day after" do
    taken, sql = made("T"), Vestry::Records::GraftOutcomeSql
    visit(taken, today, verdict: "took")
    told = lambda do |on|
      sql.beside(Vestry::DB[:grafts].where(Sequel[:grafts][:id] => taken.id), today: on)
        .select(sql.took.as(:took)).get(:took)
    end
    expect([told[today - 1], told[today]]).to eq [nil, true]
  end
end
