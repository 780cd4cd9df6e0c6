# frozen_string_literal: true

RSpec.describe "The current orchard", :database do
  let(:here) { orchard }
  let(:elsewhere) { orchard }
  let(:standing) { tree(here) }

  def found(model, row) = model.class[row.id]

  it "is the one its rows give, and is let go of afterwards" do
    made = limb(standing)
    here.with_current do
      expect(found(standing, standing).orchard).to equal here
      expect(found(made, made).tree.orchard).to equal here
    end
    expect(Vestry::Records::Orchard.current).to be_nil
    expect(found(standing, standing).orchard).not_to equal here
    expect { here.with_current { raise "it broke" } }.to raise_error("it broke")
    expect(Vestry::Records::Orchard.current).to be_nil
  end

  it "is looked over once in a request that reads, and anew everywhere else" do
    asked = ->(of) { [of.wood_store(World::TODAY), of.stripped_trunks(World::TODAY), of.planned(:stubs, 2026)] }
    here.with_current(reading: true) do
      expect(asked.call(here).zip(asked.call(here))).to all(satisfy { |one, two| one.equal?(two) })
      expect(asked.call(elsewhere).zip(asked.call(elsewhere))).to all(satisfy { |one, two| !one.equal?(two) })
      expect(here.planned(:stubs, 2026)).not_to equal here.planned(:stubs, 2027)
    end
    anew = -> { expect(asked.call(here).zip(asked.call(here))).to all(satisfy { |one, two| !one.equal?(two) }) }
    anew.call
    here.with_current { anew.call }
  end

  it "is never given by another orchard's rows" do
    foreign = tree(elsewhere)
    here.with_current { expect(found(foreign, foreign).orchard.id).to eq elsewhere.id }
    here.with_current { elsewhere.with_current { expect(found(foreign, foreign).orchard).to equal elsewhere } }
  end

  it "forgets what it knew when it is read again" do
    expect([here.tree_count, here.rows, here.species, here.weather(World::TODAY).any?]).to eq [0, [], [], false]
    tree(here, row: "K")
    Vestry::DB[:weather_days].insert(orchard_id: here.id, day: World::TODAY - 1, min_c: 4, max_c: 12)
    expect(here.tree_count).to eq 0
    here.refresh
    expect([here.tree_count, here.rows, here.species, here.weather(World::TODAY).any?])
      .to eq [1, ["K"], ["apple"], true]
  end

  it "tells the limbs of a tree of each other, without those out of sight" do
    stem = limb(standing, "A")
    branch = limb(standing, "A1", parent_id: stem.id)
    limb(standing, "A2", parent_id: stem.id, hidden_at: Time.now)
    limbs = Vestry::Records::Tree[standing.id].limbs
    expect(limbs.map(&:tag)).to eq %w[A A1]
    expect(limbs[0].children).to eq [limbs[1]]
    expect(limbs[1].parent).to equal limbs[0]
    expect(limbs[1].id).to eq branch.id
    stem.update(hidden_at: Time.now)
    expect(Vestry::Records::Tree[standing.id].limbs.first.parent.id).to eq stem.id
  end

  it "names the first tree of a row without limbs, and among all the first in walking order" do
    limb(tree(here, row: "B", number: 1))
    tree(here, row: "B", number: 3)
    tree(here, row: "B", number: 2)
    tree(here, row: "A", number: 9)
    tree(here, row: "A", number: 1, hidden_at: Time.now)
    expect(Vestry::Records::TreeQueries.bare_tree(here, row: "B").label).to eq "B2"
    expect(Vestry::Records::TreeQueries.bare_tree(here).label).to eq "A9"
    expect(Vestry::Records::TreeQueries.bare_tree(here, row: "Z")).to be_nil
    expect(Vestry::Records::TreeQueries.bare_tree(elsewhere)).to be_nil
  end
end
