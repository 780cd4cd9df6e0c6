# frozen_string_literal: true

RSpec.describe Vestry::Records::MatchBoard do
  let(:here) { orchard }
  let(:today) { Date.new(2026, 3, 1) }
  let!(:kind) { variety(here) }
  let(:standing) { tree(here) }

  # A thin limb for a flap, at its middle as thick as is asked.
  def stub(tag, technique: "four-flap", girth: 80, cut: 900, sticks: "single", variety: kind)
    branch = limb(standing, tag, girth_mm: girth, length_mm: 2000, rise_deg: 60)
    Vestry::Deeds::DecideLimb.call(branch, { role: "work", technique: technique, cut: cut.to_f, practice: sticks,
                                           variety: variety.id, against_reason: "for trial" }, by: "Orla", season: 2026)
  end

  def bundle(diameters, variety: kind, **more)
    Vestry::Deeds::MakeBundle.call(here, { variety: variety.id, source: "row S", cut_on: Date.new(2026, 1, 16),
                                           diameters: diameters, checked: Vestry::Deeds::MakeBundle::CHECKS.keys }
                                             .merge(more), by: "Orla", today: today)
  end

  def board = described_class.new(Vestry::Records::Orchard[here.id], 2026, today)
  def given = board.places.to_h { |place| [place.row.limb.tag, place.given.map { |each| each.diameter_mm }] }

  it "gives each stub the stick of its size, and counts what is over" do
    thin, thick = stub("A"), stub("B", girth: 110)
    stocks = board.places.map { |place| place.stub_mm }
    bundle(stocks.map { |mm| (mm * 1.075).round(1) }.reverse + [4.0])
    expect(given["A"].first).to be < given["B"].first
    expect(board.left.map { |stick| stick.diameter_mm.to_f }).to eq [4.0]
    expect([thin.sticks, thick.sticks]).to eq [1, 1]
  end

  it "offers for a stub the sticks that fit it best, and none that is kept for another" do
    row, other = stub("A"), stub("B")
    stock = board.places.first.stub_mm
    sizes = (0...40).map { |step| (stock * (1.075 + (step * 0.005))).round(2) }
    wood = bundle(sizes.reverse + [3.0])
    kept = wood.sticks.find { |stick| (stick.diameter_mm - sizes[3]).abs < 0.01 }
    Vestry::Deeds::KeepBundle.lock(other.refresh, kept, by: "Orla")
    offered = board.choices(row).map { |stick| stick.diameter_mm.to_f }
    expect(offered).to eq((sizes.first(25) - [sizes[3]]))
    expect(board.choice_count(row)).to eq 40
  end

  it "keeps as many sticks for a stub as it takes, and no more" do
    row = stub("A")
    wood = bundle([9.0, 9.0, 9.0]).sticks
    row.update(sticks: 2)
    wood.first(2).each { |stick| Vestry::Deeds::KeepBundle.lock(row.refresh, stick, by: "Orla") }
    expect { Vestry::Deeds::KeepBundle.lock(row.refresh, wood.last, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused, /as many sticks/)
    expect(Vestry::DB[:stick_locks].count).to eq 2
  end

  it "drops the same stubs as the season's supply, and serves another only with wood that fits none of those" do
    stubs = [80, 110, 95, 70].each_with_index.map { |girth, i| stub(%w[A B C D][i], technique: "cleft", girth: girth) }
    bundle([8.0, 8.0])
    line = Vestry::Records::WoodSupply.new(Vestry::Records::Orchard[here.id], 2026, today).lines
      .find { |each| each.variety.id == kind.id }
    dropped = line.to_drop.map { |row| row.limb.tag }
    expect(dropped).to match_array %w[A D]
    expect(board.places.select { |place| place.given.empty? }.map { |place| place.row.limb.tag }).to match_array dropped
    expect(stubs.map(&:sticks)).to eq [1, 1, 1, 1]
  end

  it "leaves to the bare stretches their sticks, as the supply does, unless promised wood fills them" do
    stub("A", technique: "cleft", girth: 110)
    stub("B", technique: "cleft", girth: 80)
    stretch = Vestry::Deeds::MarkSite.call(standing, { tag: "S1", at_mm: 700.0, bearing_deg: 90 }, by: "Orla")
    Vestry::Deeds::DecideSite.call(stretch, { role: "work", technique: "side-bark", variety: kind.id, season: 2026 },
                                   by: "Orla", season: 2026)
    bundle([8.0, 8.0])
    line = -> { Vestry::Records::Orchard[here.id].wood_supply(2026, today).lines.first }
    served = -> { board.places.reject { |place| place.given.empty? }.map { |place| place.row.limb.tag } }
    expect(line.call.to_h.slice(:wanted, :for_sites)).to eq(wanted: 3, for_sites: 1)
    expect([line.call.have, line.call.for_stubs, line.call.short, line.call.to_drop.map { |row| row.limb.tag }])
      .to eq [2, 1, 1, ["B"]]
    expect(served.call).to eq ["A"]
    Vestry::Deeds::PromiseWood.call(kind, { season: 2026, sticks: 1, source: "by post" }, by: "Orla")
    expect([line.call.short, served.call]).to match [0, contain_exactly("A", "B")]
  end

  it "counts a bare stretch that was not filled in its season while the next is planned, and once" do
    stretch = Vestry::Deeds::MarkSite.call(standing, { tag: "S1", at_mm: 700.0, bearing_deg: 90 }, by: "Orla")
    Vestry::Deeds::DecideSite.call(stretch, { role: "work", technique: "side-bark", variety: kind.id, season: 2026 },
                                   by: "Orla", season: 2026)
    wanted = lambda do |season, on|
      Vestry::Records::Orchard[here.id].wood_supply(season, on).lines.sum { |line| line.wanted }
    end
    winter = Date.new(2027, 1, 10)
    expect([wanted[2026, today], wanted[2027, today]]).to eq [1, 0]
    expect([wanted[2026, winter], wanted[2027, winter], wanted[2028, winter]]).to eq [0, 1, 0]
    order = Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2027, winter)
    expect(order.lines.map { |line| [line.variety.id, line.sticks] }).to eq [[kind.id, 1]]
  end

  it "counts a variety that only bare stretches want" do
    stretch = Vestry::Deeds::MarkSite.call(standing, { tag: "S1", at_mm: 700.0, bearing_deg: 90 }, by: "Orla")
    Vestry::Deeds::DecideSite.call(stretch, { role: "work", technique: "side-bark", variety: kind.id, season: 2026 },
                                   by: "Orla", season: 2026)
    line = Vestry::Records::Orchard[here.id].wood_supply(2026, today).lines.first
    expect([line.variety.id, line.count, line.wanted, line.short, line.shortage[:short]]).to eq [kind.id, 0, 1, 1, 0]
  end

  it "keeps a stick only while its stub is to be worked in its season, and to become its variety" do
    row = stub("A")
    other = variety(here, "Evensong")
    wood = bundle([9.0, 9.0])
    keep = lambda do
      Vestry::Deeds::KeepBundle.lock(row.refresh, wood.sticks.first, by: "Orla")
      Vestry::Records::StickLocks.of(here).values
    end
    held = -> { [Vestry::Records::StickLocks.of(here).values, board.places.flat_map(&:given).count(&:locked)] }
    anew = lambda do |**said|
      Vestry::Deeds::DecideLimb.call(row.limb, { role: "work", technique: "four-flap", cut: 900.0, practice: "single",
                                                 variety: kind.id, season: 2026, against_reason: "x" }.merge(said),
                                     by: "Orla", season: 2026)
    end
    expect([keep.call, held.call]).to eq [[row.id], [[row.id], 1]]
    [{ variety: other.id }, { season: 2027, role: "later" }, { role: "nurse" }].each do |said|
      anew[**said]
      expect([said, held.call]).to eq [said, [[], 0]]
      anew.call
    end
    # A stick that was thrown out is held for nobody, and another can be.
    Vestry::Deeds::MoveSticks.send_off(wood, 2, "discarded", to: "split", on: today, by: "Orla")
    expect(held.call).to eq [[], 0]
    Vestry::DB[:sticks].update(left_for: nil, left_on: nil, left_to: nil)
    # And what is held no longer can be kept for another.
    anew[variety: other.id]
    second = stub("B")
    Vestry::Deeds::KeepBundle.lock(second, wood.sticks.first, by: "Orla")
    expect(Vestry::Records::StickLocks.of(here).values).to eq [second.id]
  end

  it "counts a stick that is kept out of its method's range for no misfit" do
    first = stub("A")
    Vestry::Deeds::KeepBundle.lock(first, bundle([board.places.first.stub_mm * 1.6]).sticks.first, by: "Orla")
    expect(board.places.first.given.map { |each| each.misfit_mm }).to eq [nil]
    expect(board.whole).to include(misfit_mm: 0.0)
  end

  it "says what to do for a stub that goes short, in the order of use" do
    stub("A")
    expect(board.ways(board.places.first).map { |way| way[:code] }).to eq ["match_more_wood"]
    stock = board.places.first.stub_mm
    bundle([(stock * 1.31).round(2)])
    way = board.ways(board.places.first).first
    expect(way[:code]).to eq "match_cut_elsewhere"
    expect(way[:at_mm]).to be < 900
    expect(Vestry::Records::CoreInputs.diameter_at(board.places.first.row.limb, way[:at_mm]) * 1.075).to be_within(0.01)
      .of(way[:diameter_mm])
    other = variety(here, "Evensong")
    bundle([(stock * 1.07).round(1)], variety: other)
    bundle([9.0])
    expect(board.ways(board.places.first).map { |each| each[:code] })
      .to include("match_other_variety", "match_other_method")
  end

  it "gives one variety's stubs the same sticks alone as among all" do
    other = variety(here, "Evensong")
    stub("A")
    stub("B", girth: 110)
    stub("C", variety: other)
    stocks = board.places.map(&:stub_mm)
    bundle(stocks.first(2).map { |mm| (mm * 1.08).round(1) } + [stocks[2].round(1)])
    bundle([(stocks[2] * 1.05).round(1)], variety: other)
    all = board.places.to_h { |place| [place.row.id, place.given.map { |each| each.stick.id }] }
    alone = [kind, other].map do |one|
      described_class.new(Vestry::Records::Orchard[here.id], 2026, today, variety: one.id).places
        .to_h { |place| [place.row.id, place.given.map { |each| each.stick.id }] }
    end
    expect(alone.map(&:size)).to eq [2, 1]
    expect(alone.reduce(&:merge)).to eq all
    expect(all.values).to all(have_attributes(size: 1))
  end

  it "matches so many of each variety at once, in walking order, and tells of those beyond" do
    stub_const("#{described_class}::MOST", 1)
    other = variety(here, "Evensong")
    %w[A B].each { |tag| stub(tag) }
    stub("C", variety: other)
    expect(board.places.map { |place| place.row.limb.tag }).to eq %w[A C]
    expect(board.beyond.transform_keys(&:name)).to eq(kind.name => 1)
    expect(board.undecided).to eq 0
  end

  it "matches anew round a stick that is kept by hand" do
    first = stub("A")
    stub("B")
    stock = board.places.first.stub_mm
    wood = bundle([(stock * 1.07).round(1), (stock * 1.2).round(1)])
    worse = wood.sticks.last
    Vestry::Deeds::KeepBundle.lock(first, worse, by: "Orla")
    place = board.places.find { |each| each.row.id == first.id }
    expect(place.given.map { |each| [each.stick.id, each.locked] }).to eq [[worse.id, true]]
    expect(given["B"].first).to be < given["A"].first
    expect { Vestry::Deeds::KeepBundle.lock(first, wood.sticks.first, by: "Orla") }
      .to raise_error(Vestry::Deeds::Refused)
    Vestry::Deeds::KeepBundle.unlock(here, worse.id)
    expect(board.places.flat_map(&:given).none?(&:locked)).to be true
  end

  it "shares scarce wood as the plan does, and asks for as many sticks as are lacking" do
    made = %w[A B C].map { |tag| stub(tag, technique: "rind", girth: 230, cut: 700, sticks: "pair") }
    Vestry::Records::PlanLimb.where(id: made.map(&:id)).update(stock_mm: nil)
    bundle([9.0] * 5)
    line = Vestry::Records::WoodSupply.new(Vestry::Records::Orchard[here.id], 2026, today).lines.first
    expect(line.shortage).to include(short: 1, drop: [])
    matched = board
    expect(matched.places.map { |place| place.given.size }).to eq [2, 2, 1]
    expect(matched.ways(matched.places.last)).to eq [{ code: "match_fewer", sticks: 1 },
                                                     { code: "match_more_wood", sticks: 1 }]
  end

  it "goes short of a stick that somebody else uses while the page is made" do
    planned = stub("A", technique: "rind", girth: 230, cut: 700, sticks: "pair")
    bundle([9.0, 9.0])
    board.size
    reading = Vestry::Records::Orchard[here.id]
    reading.with_current(reading: true) do
      used = Vestry::Records::Stick.first
      Thread.new { used.this.update(left_for: "lent") }.join
      made = [{}, { variety: kind.id }, { only: [planned.refresh] }].map do |which|
        described_class.new(reading, 2026, today, **which).places.map { |place| [place.given.size, place.short] }
      end
      expect(made).to all eq [[1, 1]]
    end
  end

  it "leaves shoots that are kept whole, and last season's wood, alone" do
    stub("A")
    stock = board.places.first.stub_mm
    bundle([stock.round(1)], whole_shoots: true)
    bundle([stock.round(1)], cut_on: Date.new(2025, 1, 16))
    expect(given["A"]).to eq []
  end

  it "orders wood with a reserve, and lists the sizes that flaps want" do
    stub("A")
    stub("B", technique: "rind", girth: 230, cut: 700, sticks: "pair")
    line = Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2026, today).lines.first
    expect(line.sticks).to eq 3
    expect(line.total).to be > 3
    expect(line.diameters.map(&:label)).to eq ["#{standing.label} A"]
    bundle([9.0] * 30)
    expect(Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2026, today).lines.first.to_cut).to eq 0
  end

  it "reckons the dormant window from past springs, and by the calendar without any" do
    stub("A")
    expect(Vestry::Records::WoodOrder.new(here, 2026, today).window)
      .to include(by: "calendar", from: Date.new(2025, 12, 10))
    (2019..2025).each do |year|
      (Date.new(year, 2, 1)..Date.new(year, 6, 30)).each { |day| Vestry::DB[:weather_days].insert(orchard_id: here.id,
        day: day, min_c: 5, max_c: 9 + (year - 2019)) }
    end
    window = Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2026, today).window
    expect(window).to include(by: "weather", years: 7)
    expect(window[:to]).to be < window[:latest]
    expect(window[:to].year).to eq 2026
  end
end
