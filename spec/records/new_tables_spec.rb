# frozen_string_literal: true

RSpec.describe "What the database refuses of plans, wood and weather" do
  let!(:here) { orchard }
  let!(:there) { orchard }
  let!(:kind) { variety(here) }
  let!(:standing) { tree(here) }

  def refuses(error = Sequel::CheckConstraintViolation, &block)
    expect { Vestry::DB.transaction(savepoint: true, &block) }.to raise_error(error)
  end
  def bundle(**facts)
    Vestry::Records::Bundle.create({ orchard_id: here.id, variety_id: kind.id, source: "row S",
                                     cut_on: Date.new(2026, 1, 16) }.merge(facts))
  end
  def plan_limb(**facts)
    Vestry::Records::PlanLimb.create({ orchard_id: here.id,
                                       plan_id: Vestry::Records::Plan.create(orchard_id: here.id, tree_id: standing.id)
                                         .id, limb_id: limb(standing).id, role: "work" }.merge(facts))
  end

  it "keeps wood, readings and locks within their orchard" do
    refuses(Sequel::ForeignKeyConstraintViolation) { bundle(variety_id: variety(there).id) }
    refuses(Sequel::ForeignKeyConstraintViolation) { bundle(tree_id: tree(there).id) }
    store = Vestry::Records::Store.create(orchard_id: there.id, name: "Fridge")
    refuses(Sequel::ForeignKeyConstraintViolation) do
      Vestry::DB[:store_readings].insert(orchard_id: here.id, store_id: store.id, at: Time.now, celsius: 1)
    end
    refuses(Sequel::ForeignKeyConstraintViolation) do
      Vestry::DB[:bundle_stays].insert(orchard_id: here.id, bundle_id: bundle.id, store_id: store.id, since: Time.now)
    end
    refuses(Sequel::ForeignKeyConstraintViolation) do
      Vestry::Records::PhenologySeen.create(orchard_id: here.id, tree_id: tree(there).id, seen_on: Date.new(2026, 4, 1),
                                            stage: "green", seen_by: "Orla")
    end
  end

  it "lets a stick go one way only" do
    stick = Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: bundle.id, number: 1)
    made = graft(limb(standing, "Q"))
    refuses { Vestry::DB[:sticks].where(id: stick).update(graft_id: made.id, left_for: "lent") }
    refuses { Vestry::DB[:sticks].where(id: stick).update(left_for: "eaten") }
    refuses { Vestry::DB[:sticks].where(id: stick).update(diameter_mm: 31) }
  end

  it "keeps shares, places, days and temperatures possible" do
    refuses { Vestry::Records::Plan.create(orchard_id: here.id, tree_id: standing.id, cap: 1.2) }
    refuses { plan_limb(cut_mm: 700, long_cut_mm: 600) }
    refuses { Vestry::DB[:weather_days].insert(orchard_id: here.id, day: Date.new(2026, 1, 1), min_c: 5, max_c: 4) }
    refuses do
      Vestry::DB[:weather_days].insert(orchard_id: here.id, day: Date.new(2026, 1, 1), min_c: 5, max_c: 6, rain_mm: -1)
    end
    refuses { Vestry::DB[:crew_days].insert(orchard_id: here.id, day: Date.new(2026, 1, 1), hours: 25, grafters: 1) }
    refuses { Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: kind.id, season: 2026, sticks: -1) }
    refuses do
      Vestry::DB[:bundle_checks].insert(orchard_id: here.id, bundle_id: bundle.id, seen_on: Date.new(2026, 2, 1),
                                        found: "fine", seen_by: "Orla")
    end
  end

  it "finds wood, stores, sites and planned limbs through their own orchard alone" do
    ids = { bundle!: bundle.id, store!: Vestry::Records::Store.create(orchard_id: here.id, name: "Fridge").id,
            planned_limb!: plan_limb.id,
            site!: Vestry::Records::Site.create(orchard_id: here.id, tree_id: standing.id, tag: "S1", at_mm: 700,
                                                bearing_deg: 9).id }
    ids.each do |finder, id|
      expect(here.public_send(finder, id).id).to eq id
      expect { there.public_send(finder, id) }.to raise_error(Vestry::Records::Missing)
      expect { here.public_send(finder, "x") }.to raise_error(Vestry::Records::Missing)
    end
  end

  it "asks rows, pages and grafts of one orchard alone" do
    [here, there].each { |place| 3.times { |i| graft(limb(tree(place, row: "B", number: i + 1))) } }
    trees, grafts = Vestry::Records::TreeQueries, Vestry::Records::GraftQueries
    expect(trees.row_counts(here)).to eq [{ row: "A", trees: 1, planned: 0 }, { row: "B", trees: 3, planned: 0 }]
    expect(trees.trees_page(here, row: "B", page: 1, size: 2).size).to eq 3
    expect(trees.trees_page(here, row: "B", page: 2, size: 2).map(&:number)).to eq [3]
    expect(trees.trees_page(here, row: "Z", page: 1, size: 2)).to eq []
    expect(grafts.grafts(here, on: Date.new(2026, 4, 21)).map(&:orchard_id).uniq).to eq [here.id]
    expect(grafts.grafts(here, on: Date.new(2026, 4, 22))).to eq []
    expect([here.rows, here.trees_of_row("B", most: 2).size, here.tree_ids_of_rows(%w[B Z]).size]).to eq [%w[A B], 2, 3]
  end

  it "says the height of a place on a limb, and of none" do
    branch = limb(standing, "H", fork_mm: 1000, rise_deg: 30, length_mm: 2000)
    expect(branch.height_at(800)).to be_within(1e-6).of(1400)
    expect(branch.height_at(nil)).to be_nil
    expect(branch.tip_height_mm).to be_within(1e-6).of(2000)
  end

  it "plans for the coming season once bark has closed" do
    tree(here)
    expect(here.season_to_plan(Date.new(2026, 5, 18))).to eq 2026
    expect(Vestry::Records::Orchard[here.id].season_to_plan(Date.new(2026, 6, 30))).to eq 2027
    expect(Vestry::Records::Orchard[here.id].season_to_plan(Date.new(2026, 11, 5))).to eq 2027
  end
end
