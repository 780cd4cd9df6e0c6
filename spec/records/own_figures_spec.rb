# frozen_string_literal: true

RSpec.describe Vestry::Records::OwnFigures do
  let(:here) { orchard }
  let(:today) { World::TODAY }

  # A tree of three even limbs of which one is grafted, and what was counted of it in that autumn or later.
  def counted(year, season: year, sticks: 1, species: "apple", **sizes)
    stock = tree(here, species: species)
    made = %w[A B C].map { |tag| limb(stock, tag, girth_mm: 220) }.first
    set = graft(made, grafted_on: Date.new(year, 4, 20), stub_mm: 60, sticks: sticks)
    Vestry::Records::Tally.create(orchard_id: here.id, graft_id: set.id, season: season, alive: true,
                                  tallied_on: Date.new(season, 10, 20), sticks_alive: sticks, **sizes)
    set
  end

  def figures(on = today) = described_class.new(Vestry::Records::Orchard[here.id], on).all

  def learn = Vestry::Deeds::LearnFigures.call(Vestry::Records::Orchard[here.id], today: today)

  it "learns how fast cut faces close, from the half-width lost and the farthest way" do
    # 60 mm wide, 44 open after the first autumn: 8 mm from each side; one stick has half of the face to close over.
    counted(2024, open_a_mm: 44, open_b_mm: 44)
    # Three sticks have as far to go, half of the diameter at least.
    counted(2025, open_a_mm: 44, open_b_mm: 44, sticks: 3)
    told = figures["reckoning.closure.fed"]
    # One stick: the farthest is the diameter, twice the half that is lost. The book's 20 counts as six.
    expect(told).to include(book: 20.0, seen: 2, years: 2)
    expect(told[:own]).to be_within(1e-9).of((6 * 20 + 16 + 8) / 8.0)
  end

  it "learns a shoot's foot and its length without the push of what was cut, and nothing of this season" do
    counted(2024, growth_mm: 800, above_mm: 12.5)
    counted(2025, growth_mm: 1000, above_mm: 14.5)
    counted(2026, growth_mm: 3000, above_mm: 40)
    # (12.5 - 2.5) / 800 and 12 / 1000, with the book's 0.0095 as six.
    foot = figures["reckoning.union.thickens"]
    expect(foot[:own]).to be_within(1e-9).of((6 * 0.0095 + 0.0125 + 0.012) / 8)
    # A third of the head is gone and one stub worked: the roots push by 1 / (2/3 + 0.04).
    push = 1 / (2 / 3.0 + 0.04)
    shoot = figures["reckoning.vigour.ordinary.apple"]
    expect(shoot[:own]).to be_within(1e-6).of((6 * 450 + (800 + 1000) / push) / 8)
    # Of 2026, this season, nothing is heard.
    expect([foot[:seen], shoot[:seen]]).to eq [2, 2]
  end

  it "learns what a year adds to a graft, from its last two autumns" do
    set = counted(2024, above_mm: 12)
    again = lambda do |season, mm, sticks = 1|
      Vestry::Records::Tally.create(orchard_id: here.id, graft_id: set.id, season: season, alive: true,
                                    tallied_on: Date.new(season, 10, 20), sticks_alive: sticks, above_mm: mm)
    end
    expect(figures["reckoning.regrowth.ring"]).to be_nil
    again[2025, 32]
    told = figures["reckoning.regrowth.ring"]
    # 20 mm more is 10 on each side; the book's 6 counts as six.
    expect(told).to include(book: 6.0, seen: 1, years: 1)
    expect(told[:own]).to be_within(1e-9).of((6 * 6 + 10) / 7.0)
    # Four sticks of 8 mm have the section of one of 16; of one whose sticks were thinned it tells nothing.
    set.tallies_dataset.where(season: 2025).update(above_mm: 8, sticks_alive: 4)
    expect(figures["reckoning.regrowth.ring"][:own]).to be_within(1e-9).of((6 * 6 + 2) / 7.0)
    again[2026, 10]
    expect(figures(Date.new(2027, 5, 1))["reckoning.regrowth.ring"]).to be_nil
  end

  it "lays what tells the years better than the book over it, wherever it is used, and not what the steward said" do
    [2023, 2024, 2025].each { |year| 3.times { counted(year, growth_mm: 900, above_mm: 20.5, open_a_mm: 44) } }
    expect(learn).to be true
    fresh = Vestry::Records::Orchard[here.id]
    own = figures["reckoning.union.thickens"][:own]
    expect(fresh.rulebook.value("reckoning.union.thickens")).to be_within(1e-5).of own
    expect(own).to be > 0.0095
    ordinary = fresh.rulebook.value("reckoning.vigour.ordinary")
    expect(ordinary["apple"]).to be > 450
    expect(ordinary["pear"]).to eq 500
    # What is foreseen of every shoot is read by the same figure.
    expect(Vestry::Core::Plan::Regrowth.foot(1000, fresh.rulebook)).to be_within(0.01).of(2.5 + own * 1000)
    # Learned again it is the same, and nothing is written.
    version = fresh.version
    expect([learn, Vestry::Records::Orchard[here.id].version]).to eq [false, version]
    Vestry::Deeds::Overrule.call(fresh, "reckoning.union.thickens", "0.01", why: "measured", by: "Orla", today: today)
    learn
    expect(Vestry::Records::Orchard[here.id].rulebook.value("reckoning.union.thickens")).to eq 0.01
  end

  it "learns at once from what is brought in with an orchard" do
    [2023, 2024, 2025].each { |year| 3.times { counted(year, growth_mm: 800, above_mm: 20.5) } }
    bringer = person("Bo Vane")
    Vestry::Deeds::ImportOrchard.finish(here, bringer.id)
    expect(Vestry::Records::Orchard[here.id].learned.keys).to include("reckoning.union.thickens")
    expect(bringer.role_in(here)).to eq "steward"
  end

  it "learns nothing that the rulebook would not let be said" do
    [2023, 2024, 2025].each { |year| 3.times { counted(year, growth_mm: 100, above_mm: 60) } }
    expect(figures["reckoning.union.thickens"]).to include(used: true, own: be > 0.05)
    learn
    expect(Vestry::Records::Orchard[here.id].rulebook.value("reckoning.union.thickens")).to eq 0.0095
  end

  it "learns from the past of the learned figures alone, and is reckoned anew when it changes" do
    set = counted(2025, growth_mm: 900, above_mm: 20.5)
    Vestry::Records::CareSchedule.refresh(here, today)
    valid = -> { Vestry::DB[:care_states].where(graft_id: set.id).get(Sequel.cast(:valid_until, String)) }
    expect(valid.call).not_to eq "-infinity"
    own = { "reckoning.union.thickens" => { "value" => 0.02, "why" => "seen" } }
    Vestry::Records::Orchard[here.id].learned_anew(own)
    expect(valid.call).to eq "-infinity"
    # What is learned is told from the book, not from what was learned before.
    expect(figures["reckoning.union.thickens"][:book]).to eq 0.0095
  end

  it "learns how long wood lives from sticks that were forced, by the store they lay in" do
    life = Vestry::Core::Rulebook.shipped.value("species.apple.wood_life")
    kept = Vestry::Records::Store.create(orchard_id: here.id, name: "Cellar")
    amber = variety(here, "Amber")
    [2024, 2025].each do |year|
      from = Time.utc(year - 1, 12, 1)
      Vestry::DB[:store_readings].multi_insert((0..270).map do |n|
        { orchard_id: here.id, store_id: kept.id, at: from + n * 86_400, celsius: 1 }
      end)
      bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: amber.id, source: "row S",
                                              cut_on: Date.new(year - 1, 12, 1))
      Vestry::DB[:bundle_stays].insert(orchard_id: here.id, bundle_id: bundle.id, store_id: kept.id, since: from)
      Vestry::DB[:bundle_checks].insert(orchard_id: here.id, bundle_id: bundle.id, seen_by: "Orla",
                                        found: Vestry::Records::Bundle::TESTED, seen_on: Date.new(year, 4, 30),
                                        forced: 6, forced_moved: 0)
    end
    told = figures["species.apple.wood_life"]
    expect(told).to include(book: life.to_f, seen: 2, years: 2, used: true)
    # Five months at 1 °C, and none of six woke: it lives shorter than the book says.
    expect(told[:own]).to be_between(100, life - 20)
    learn
    expect(Vestry::Records::Orchard[here.id].rulebook.value("species.apple.wood_life")).to be < life
  end
end
