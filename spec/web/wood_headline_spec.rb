# frozen_string_literal: true

# What the wood's page says first once it is too late to cut.
RSpec.describe "The wood's headline" do
  let(:here) { orchard }
  let(:kind) { variety(here) }

  # A variety of which so many sticks lie in store, more than are planned or fewer.
  def said(have, on: World::TODAY, thrown_by: ["A1 A"])
    line = Vestry::Records::WoodOrder::Line.new(variety: kind, sticks: 3, reserve: 2, total: 5, have: have,
                                                anywhere: Struct.new(:found) { def of(_) = found }.new(thrown_by))
    order = Vestry::Records::WoodOrder.new(here, 2026, on)
    window = { from: Date.new(2025, 12, 10), to: Date.new(2026, 2, 20) }
    allow(order).to receive_messages(lines: [line], window: window)
    cellar = Struct.new(:kept) { def kept(season:) = season && [] }.new
    Vestry::Web::Headline.new(here, on).wood(order, cellar)
  end

  before { tree(here) }

  it "tells what the stubs lack from what the reserve lacks" do
    expect(said(1)).to eq "Skylark Russet is short of 2 sticks for the stubs planned and 2 of its reserve, and the " \
                          "wood has woken: find stored wood, or drop stubs."
    expect(said(4)).to eq "Skylark Russet has its wood for the stubs planned; 1 stick of its reserve is missing, and " \
                          "the wood has woken."
    expect(said(5)).to eq "All the wood for 2026 is in store: 5 sticks."
    expect(said(1, on: Date.new(2026, 2, 20)))
      .to eq "Skylark Russet still wants 4 sticks; wood is cut from 10 December to 20 February."
  end

  it "counts what the list wants once it is too late to cut, one as one" do
    line = ->(have) { Vestry::Records::WoodOrder::Line.new(variety: kind, sticks: 3, total: 3, have: have) }
    said = lambda do |*lines|
      order = Vestry::Records::WoodOrder.new(here, 2026, World::TODAY)
      allow(order).to receive_messages(lines: lines, window: { to: Date.new(2026, 2, 20) })
      Vestry::Web::Headline.new(here, World::TODAY).cutting(order)
    end
    expect(said[line[2]]).to start_with "1 stick of 1 variety is missing for 2026"
    expect(said[line[0], line[1]]).to start_with "5 sticks of 2 varieties are missing for 2026"
    expect(said[line[3]]).to eq "Nothing is to be cut for 2026."
  end

  it "orders what no limb here can throw, and waits for what is on order" do
    early = Date.new(2026, 2, 20)
    expect(said(1, on: early, thrown_by: []))
      .to eq "Skylark Russet still wants 4 sticks, and no limb here can throw it: order them by 20 February."
    Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: kind.id, season: 2026, sticks: 4,
                                        source: "Exchange", ordered_on: early)
    expect(said(1, on: early, thrown_by: []))
      .to eq "Skylark Russet wants 4 sticks by 20 February, and they are on order."
  end

  it "of what comes from elsewhere tells what is late first, then what is to be asked for, then what is on order" do
    line = Struct.new(:sticks)
    awaited = Struct.new(:wanted_by, :sticks, :variety, :source).new(Date.new(2026, 6, 1), 4, kind, "Exchange")
    order = Vestry::Records::WoodOrder.new(here, 2026, World::TODAY)
    said = lambda do |lines, waited|
      nursery = Struct.new(:lines, :awaited, :order).new(lines, waited, order)
      Vestry::Web::Headline.new(here, World::TODAY).nursery(nursery)
    end
    expect([said[[line.new(3), line.new(2)], [awaited]], said[[line.new(1)], []], said[[], [awaited]], said[[], []]])
      .to eq ["5 sticks are to be asked for elsewhere, of 2 varieties.",
              "1 stick is to be asked for elsewhere, of 1 variety.", "4 sticks are on order.",
              "Nothing has to come from elsewhere for 2026."]
  end

  it "cuts what never sleeps on the day, whenever that is" do
    kind.update(species: "citrus")
    expect(said(1)).to eq "Skylark Russet wants 4 sticks: its leafy wood is cut on the day of grafting."
  end
end
