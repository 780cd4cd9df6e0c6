# frozen_string_literal: true

# What the wood's page says first once it is too late to cut.
RSpec.describe "The wood's headline" do
  let(:here) { orchard }
  let(:kind) { variety(here) }

  # A variety of which so many sticks lie in store, more than are planned or fewer.
  def said(have, on: World::TODAY, thrown_by: ["A1 A"])
    line = Vestry::Records::WoodOrder::Line.new(variety: kind, sticks: 3, reserve: 2, total: 5, have: have,
                                                anywhere: Struct.new(:found) { def of(_) = found }.new(thrown_by),
                                                **Vestry::Records::WoodPromise.coming(here, 2026).of(kind.id))
    order = Vestry::Records::WoodOrder.new(here, 2026, on)
    window = { from: Date.new(2025, 12, 10), to: Date.new(2026, 2, 20) }
    allow(order).to receive_messages(lines: [line], window: window)
    cellar = Vestry::Records::WoodStore.new(here, on)
    allow(cellar).to receive(:kept).and_return([])
    Vestry::Web::Headline.new(here, on).wood(order, cellar)
  end

  before { tree(here) }

  it "tells what the stubs lack from what the reserve lacks" do
    expect(said(1)).to eq "Skylark Russet is short of 2 sticks for the stubs planned and 2 of its reserve, and the " \
                          "days of cutting are over: find stored wood, or drop stubs."
    expect(said(4)).to eq "Skylark Russet has its wood for the stubs planned; 1 stick of its reserve is missing, and " \
                          "the days of cutting are over."
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
    expect(said(1, thrown_by: []))
      .to eq "Skylark Russet wants 4 sticks, on order and not come yet: ask after them, for the days of cutting are " \
             "over."
    expect(said(0, on: early, thrown_by: []))
      .to eq "Skylark Russet still wants 1 stick, and no limb here can throw it: order it by 20 February."
  end

  it "counts what was ordered against what is to be cut here, and what is only promised against nothing" do
    early = Date.new(2026, 2, 20)
    promise = Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: kind.id, season: 2026, sticks: 3,
                                                  source: "A1")
    expect(said(1, on: early)).to start_with "Skylark Russet still wants 4 sticks; wood is cut"
    promise.update(ordered_on: early)
    expect(said(1, on: early)).to start_with "Skylark Russet still wants 1 stick; wood is cut"
    expect(said(1)).to eq "Skylark Russet has its wood for the stubs planned; 1 stick of its reserve is missing, and " \
                          "the days of cutting are over."
    promise.update(received_on: early)
    expect(said(1)).to start_with "Skylark Russet is short of 2 sticks for the stubs planned and 2 of its reserve"
  end

  it "of what comes from elsewhere tells what is late first, then what is to be asked for, then what is on order" do
    line = Struct.new(:sticks)
    awaited = Struct.new(:wanted_by, :sticks, :variety, :source).new(Date.new(2026, 6, 1), 4, kind, "Exchange")
    order = Vestry::Records::WoodOrder.new(here, 2026, World::TODAY)
    said = lambda do |lines, waited|
      nursery = Vestry::Records::NurseryOrder.new(here, order)
      allow(nursery).to receive_messages(lines: lines, awaited: waited)
      Vestry::Web::Headline.new(here, World::TODAY).nursery(nursery)
    end
    expect([said[[line.new(3), line.new(2)], [awaited]], said[[line.new(1)], []], said[[], [awaited]], said[[], []]])
      .to eq ["5 sticks are to be asked for elsewhere, of 2 varieties.",
              "1 stick is to be asked for elsewhere, of 1 variety.", "4 sticks are on order.",
              "Nothing has to come from elsewhere for 2026."]
  end

  it "asks after what was wanted by a day gone by before it speaks of what is still on its way" do
    late = World::TODAY - 3
    promise = Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: kind.id, season: 2026, sticks: 5,
                                                  source: "Exchange", ordered_on: late, wanted_by: World::TODAY)
    expect(said(0, thrown_by: [])).to start_with "Skylark Russet wants 5 sticks, on order and not come yet"
    promise.update(wanted_by: late)
    expect(said(0, thrown_by: [])).to eq "Skylark Russet: not come yet, and wanted by 15 May: ask after them."
    promise.update(received_on: World::TODAY)
    expect(said(5, thrown_by: [])).to eq "All the wood for 2026 is in store: 5 sticks."
  end

  it "tells what can be cut now before what has woken, and what is cut later last" do
    line = lambda do |species|
      Vestry::Records::WoodOrder::Line.new(variety: variety(here, "Best #{species}", species: species), sticks: 3,
                                           total: 3, have: 0, anywhere: Struct.new(:found) { def of(_) = found }
                                             .new(["A1"]))
    end
    lines = %w[apple citrus hazel walnut].map { |species| line[species] }
    days = { "apple" => [[2025, 12, 10], [2026, 2, 1]], "walnut" => [[2026, 2, 27], [2026, 4, 3]],
             "hazel" => [[2026, 1, 5], [2026, 2, 20]] }
    order = Vestry::Records::WoodOrder.new(here, 2026, today = Date.new(2026, 2, 2))
    allow(order).to receive(:lines).and_return(lines)
    allow(order).to receive(:window) do |species|
      %i[from to].zip(days.fetch(species, [[2025, 12, 10], [2026, 2, 1]]).map { |day| Date.new(*day) }).to_h
    end
    said = -> { Vestry::Web::Headline.new(here, today).wood(order, Vestry::Records::WoodStore.new(here, today)) }
    told = []
    4.times do
      told << said.call
      lines.delete_if { |each| told.last.start_with?("#{each.variety.name} ") }
    end
    expect(told).to eq [
      "Best hazel still wants 3 sticks; wood is cut from 5 January to 20 February.",
      "Best walnut still wants 3 sticks; wood is cut from 27 February to 3 April.",
      "Best apple is short of 3 sticks and the days of cutting are over: find stored wood, or drop stubs.",
      "Best citrus wants 3 sticks: its leafy wood is cut on the day of grafting."
    ]
  end

  it "does not call spent wood wood in store" do
    plum = variety(here, "Wren Plum", species: "plum")
    Vestry::Deeds::DecideLimb.call(limb(tree(here, species: "plum", number: 7), "A"), { role: "work", technique: "rind",
      cut: 700.0, variety: plum.id, sticks: 2, season: 2026 }, by: "Orla", season: 2026)
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: plum.id, number: 1, ends: "sealed",
                                            cut_on: Date.new(2025, 12, 10), length_mm: 200, source: "elsewhere")
    8.times { |n| Vestry::Records::Stick.create(orchard_id: here.id, bundle_id: bundle.id, number: n + 1) }
    said = lambda do |on|
      place = Vestry::Records::Orchard[here.id]
      Vestry::Records::BundleCheck.create(orchard_id: here.id, bundle_id: bundle.id, seen_on: on, found: "sound",
                                         seen_by: "Orla")
      Vestry::Web::Headline.new(place, on).wood(Vestry::Records::WoodOrder.new(place, 2026, on),
                                                Vestry::Records::WoodStore.new(place, on))
    end
    # 150 days just above freezing, less what is not worth a stub.
    expect(said[Date.new(2026, 4, 16)]).to eq "All the wood for 2026 is in store: 8 sticks."
    expect(said[Date.new(2026, 4, 17)])
      .to eq "The wood of Wren Plum in store is spent since 16 April: find other wood, or move its stubs."
  end

  it "cuts what never sleeps on the day, whenever that is" do
    kind.update(species: "citrus")
    expect(said(1)).to eq "Skylark Russet wants 4 sticks: its leafy wood is cut on the day of grafting."
  end
end
