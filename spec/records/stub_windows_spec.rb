# frozen_string_literal: true

# Bark has closed and next year's stubs are planned: each is told of in its own spring.
RSpec.describe Vestry::Records::StubWindows do
  let(:here) { orchard }
  let(:standing) { tree(here) }
  let(:autumn) { Date.new(2026, 10, 9) }

  def planned(tag, season, technique: "rind")
    kind = here.varieties_dataset.first || variety(here)
    thin = technique == "chip-bud" ? { girth_mm: 50 } : {}
    Vestry::Deeds::DecideLimb.call(limb(standing, tag, **thin), { role: "work", technique: technique, cut: 700.0,
                                                          practice: thin.any? ? "single" : "pair", variety: kind.id,
                                                                   season: season },
                                   by: "Orla", season: season)
    Vestry::Records::PlanLimb.where(limb_id: standing.limbs_dataset.first(tag: tag).id).first
  end

  it "open for what knits in warmth alone when its bark does, whatever the method, and for the rest in winter" do
    opens = lambda do |species|
      grown = limb(tree(here, species: species, number: here.trees_dataset.count + 2), "A", girth_mm: 130)
      kind = variety(here, "Best #{species}", species: species)
      Vestry::Deeds::DecideLimb.call(grown, { role: "work", technique: "cleft", cut: 700.0, variety: kind.id,
                                              season: 2026 }, by: "Orla", season: 2026)
      stub = windows(Date.new(2026, 1, 20)).stubs.find { |each| each.row.limb_id == grown.id }
      [stub.window[:opens_on], stub.told.opens_on, stub.needs_slip]
    end
    place = Vestry::Records::Orchard[here.id].bark_forecast(Date.new(2026, 1, 20))
    # And where none waits, as its kind's bark does.
    span = ->(species, kind) { windows(Date.new(2026, 1, 20)).span(species, kind)[:opens_on] }
    expect([span["apple", "no-slip"], span["apple", "bud"]]).to eq [place.biofix] * 2
    expect([span["walnut", "no-slip"], span["walnut", "bud"]]).to eq [place.of_species("walnut")[:p50]] * 2
    expect(opens["cherry"].first).to eq place.biofix
    window, bark, needs_slip = opens["walnut"]
    expect([window, needs_slip]).to eq [bark, false]
    expect(bark).to be > place.biofix + 60
  end

  it "are no fault of their plan while a method that needs no bark can be set, though a later season is planned" do
    rows = [planned("A", 2026), planned("B", 2026, technique: "chip-bud")]
    told = [Date.new(2026, 5, 20), Date.new(2026, 8, 20), autumn].map do |day|
      place = Vestry::Records::Orchard[here.id]
      faults = Vestry::Records::TreePlan.new(place.tree!(standing.id), day).faults
      overdue = faults.filter_map { |each| each[:tag] if each[:code] == "plan_overdue" }
      [place.season_to_plan(day), *rows.map { |row| overdue.include?(row.limb.tag) }]
    end
    expect(told).to eq [[2026, false, false], [2027, true, false], [2027, true, true]]
  end

  def windows(day) = described_class.new(Vestry::Records::Orchard[here.id], day)
  def headline(day) = Vestry::Web::Headline.new(Vestry::Records::Orchard[here.id], day)

  it "says of next spring's stubs in autumn when that spring opens and closes, and calls none of them late" do
    row = planned("A", 2027)
    told = windows(autumn)
    expect([told.season, told.ahead?, told.stubs.map { |stub| stub.row.id }]).to eq [2027, true, [row.id]]
    stub = told.stubs.first
    expect(stub.window.values_at(:opens_on, :closes_on).map(&:year)).to eq [2027, 2027]
    expect([stub.late, told.past?(row), told.fallback(stub)]).to eq [false, false, nil]
    expect(told.opens_on(row)).to eq stub.window[:opens_on]
    # The same in winter, when that year has begun.
    expect(windows(Date.new(2026, 11, 2)).stubs.first.window).to eq stub.window
  end

  it "give a chip its stored wood until sticks at rest are over, and this summer's buds once they are ripe" do
    row = planned("A", 2026, technique: "chip-bud")
    wood = Vestry::Deeds::MakeBundle.call(here, { variety: row.variety_id, source: "row S",
                                                  cut_on: Date.new(2026, 1, 16), count: 2,
                                                  checked: Vestry::Deeds::MakeBundle::CHECKS.keys },
                                          by: "Orla", today: Date.new(2026, 1, 20))
    told = lambda do |day|
      place = Vestry::Records::Orchard[here.id]
      stubs, store = place.stubs_in_time(2026, day), place.wood_store(day)
      [stubs.rows.size, stubs.fresh.size, store.over?(wood), place.stub_windows(day).opens_on(row)]
    end
    spring = Vestry::Records::Orchard[here.id].bark_forecast(World::TODAY)
    bark, biofix = spring.closes_on("apple"), spring.biofix
    last = Vestry::Records::Orchard[here.id].last_days(World::TODAY).regraft(nil, "apple", technique: "cleft")
    expect(last).to be_between(bark + 2, Date.new(2026, 7, 30))
    expect([told[bark + 1], told[last]]).to eq [[1, 0, false, biofix]] * 2
    # Buds are ripe on 1 August.
    expect(told[last + 1]).to eq [0, 1, true, Date.new(2026, 8, 1)]
  end

  it "goes on with this year's while one of them can be set: a chip bud outlasts the bark" do
    bud, late = planned("A", 2026, technique: "chip-bud"), planned("B", 2026)
    following = planned("C", 2027)
    told = windows(Date.new(2026, 7, 20))
    expect([told.season, told.ahead?]).to eq [2026, false]
    expect([bud, late, following].map { |row| told.past?(row) }).to eq [false, true, false]
    expect(told.opens_on(following).year).to eq 2027
    # On its very last day it can still be set.
    last = told.stubs.find { |stub| stub.row.id == bud.id }.window[:closes_on]
    expect([last, last + 1].map { |day| [windows(day).season, windows(day).past?(bud)] })
      .to eq [[2026, false], [2027, true]]
    over = windows(autumn)
    expect([over.season, [bud, late, following].map { |row| over.past?(row) }]).to eq [2027, [true, true, false]]
  end

  it "tells of a day by the bark of the trees on which stubs wait" do
    planned("A", 2026)
    on = Date.new(2026, 4, 20)
    Vestry::DB[:weather_days].multi_insert((0..9).map { |i| { orchard_id: here.id, day: on + i, min_c: 9.0, max_c: 18.0,
                                                              forecast: true } })
    board = -> { Vestry::Records::DayBoard.new(Vestry::Records::Orchard[here.id], on, windows(on)) }
    verdicts = -> { board.call.lines.flat_map(&:days).to_h { |day| [day[:date], day[:verdict]] } }
    expect(verdicts.call[on]).to eq "good"
    Vestry::Deeds::SeeStage.call(standing, stage: nil, slipping: false, on: on, today: on, by: "Orla")
    opens = windows(on).stubs.first.window[:opens_on]
    expect(opens).to be > on
    expect(verdicts.call.select { |_, verdict| verdict != "wait" }.keys.min).to eq opens
    # Another tree of its kind, on which nothing waits, tells nothing.
    tree(here)
    expect(verdicts.call[on]).to eq "wait"
    expect(headline(on).graft).to include "can be grafted from about #{opens.day} April"
  end

  it "leaves no day of this year open for what waits for the next" do
    planned("A", 2027)
    told = windows(Date.new(2026, 8, 10))
    expect(told.span("apple", "slip")[:closes_on]).to eq told.spring.closes_on("apple")
    expect(told.span("apple", "slip")[:closes_on]).to be < Date.new(2026, 8, 10)
  end

  it "hurries no crew before the first opens, and says when that is" do
    planned("A", 2027)
    plan = Vestry::Records::CrewPlan.new(Vestry::Records::Orchard[here.id], autumn)
    expect([plan.missed, plan.days.sum { |day| day.stubs.size }, plan.ahead.size]).to eq [[], 0, 1]
    expect(headline(autumn).crew(plan))
      .to match(/\AThe stub that waits opens about \d+ \w+ 2027: not in these 14 days\.\z/)
    expect(headline(autumn).graft).not_to include("last sensible day")
  end

  it "calls no wood short while it can still be cut" do
    planned("A", 2027)
    supply = Vestry::Records::WoodSupply.new(Vestry::Records::Orchard[here.id], 2027, autumn)
    expect([supply.lines.map(&:short?), supply.to_come?, supply.wanting]).to eq [[true], true, []]
    spring = Vestry::Records::WoodSupply.new(Vestry::Records::Orchard[here.id], 2027, Date.new(2027, 4, 20))
    expect([spring.to_come?, spring.wanting.size]).to eq [false, 1]
    # What never sleeps is cut on the day.
    Vestry::Records::Variety.dataset.update(species: "citrus")
    leafy = Vestry::Records::WoodSupply.new(Vestry::Records::Orchard[here.id], 2027, Date.new(2027, 4, 20))
    expect([leafy.lines.map(&:short?), leafy.wanting]).to eq [[true], []]
    Vestry::Records::Variety.dataset.update(species: "apple")
    expect([autumn, Date.new(2027, 4, 20)].map { |day| headline(day).plan.include?("at hand or promised") })
      .to eq [false, true]
    board = ->(day) { Vestry::Records::MatchBoard.new(Vestry::Records::Orchard[here.id], 2027, day) }
    told = [autumn, Date.new(2027, 4, 20)].map { |day| headline(day).match(board[day]) }
    expect(told).to match [/\ANo wood for 2027 is in store yet: .* by \d+ \w+ 2027\.\z/,
                           "No wood for 2027 is in store."]
  end
end

# A shield bud is slid under bark that slips a second time, when the buds of this summer are ripe.
RSpec.describe Vestry::Records::StubWindows, "of shield buds" do
  let(:here) { orchard }
  let(:standing) { tree(here, species: "plum") }
  let(:kind) { variety(here, "Wren Plum", species: "plum") }
  let(:ripe) { Date.new(2026, 8, 1) }

  def decide(tag, technique, **more)
    Vestry::Deeds::DecideLimb.call(limb(standing, tag, girth_mm: 45), { role: "work", technique: technique, cut: 600.0,
                                                                        practice: "single", variety: kind.id,
                                                                        season: 2026, **more },
                                   by: "Orla", season: 2026)
  end

  def place = Vestry::Records::Orchard[here.id]
  def windows(day) = described_class.new(place, day)
  def only(day) = windows(day).stubs.first

  def look(day, **seen)
    Vestry::Deeds::SeeStage.call(standing, stage: nil, on: day, today: day, by: "Orla", **{ slipping: nil }.merge(seen))
  end

  def verdicts(day)
    Vestry::DB[:weather_days].where(orchard_id: here.id).delete
    Vestry::DB[:weather_days].multi_insert((0..9).map { |i| { orchard_id: here.id, day: day + i, min_c: 9.0,
                                                              max_c: 18.0, forecast: true } })
    board = Vestry::Records::DayBoard.new(place, day, windows(day))
    board.lines.to_h { |line| [line.kind, line.days.map { |each| each[:verdict] }.uniq] }
  end

  it "last from ripe buds to the last day for a bud, whatever bark did in spring" do
    decide("A", "shield-bud")
    last = place.last_days(ripe).bud
    [Date.new(2026, 4, 20), Date.new(2026, 6, 20), ripe, last].each do |day|
      stub = only(day)
      expect([day, *stub.window.values_at(:opens_on, :closes_on, :open), stub.late])
        .to eq [day, ripe, last, true, false]
    end
    look(Date.new(2026, 6, 10), slipping: false, closed: true)
    expect(only(Date.new(2026, 6, 20)).window[:closes_on]).to eq last
    expect(windows(last + 1).missed.map(&:limb_id)).to eq [standing.limbs.first.id]
  end

  it "close on the day before bark was found fast in late summer, and the fallback needs no slip" do
    %w[shield-bud chip-bud].zip(%w[A B]).each { |technique, tag| decide(tag, technique) }
    look(Date.new(2026, 8, 12), closed: true)
    chip, stub = windows(Date.new(2026, 8, 12)).stubs.sort_by { |each| each.row.technique }
    expect(chip.window[:closes_on]).to eq place.last_days(ripe).bud
    expect([stub.window[:closes_on], stub.late]).to eq [Date.new(2026, 8, 11), true]
    # That it was fast in June, or lifts again, is another thing.
    look(Date.new(2026, 6, 20), slipping: false)
    expect(windows(Date.new(2026, 8, 12)).stubs.map { |each| each.window[:closes_on] }.min)
      .to eq Date.new(2026, 8, 11)
    expect(windows(Date.new(2026, 8, 12)).fallback(stub).map { |each| each[:method] }).to include "chip-bud"
    look(Date.new(2026, 8, 20), slipping: true)
    again = windows(Date.new(2026, 8, 20)).stubs.map { |each| each.window[:closes_on] }
    expect(again.min).to be > Date.new(2026, 8, 20)
  end

  it "ask for their bark when they open, and not in spring" do
    decide("A", "shield-bud")
    visits = ->(day) { Vestry::Records::RevisitList.new(place, day, windows(day)).visits.map(&:on) }
    expect([visits[Date.new(2026, 4, 28)], visits[ripe]]).to eq [[ripe], [ripe]]
    look(Date.new(2026, 4, 28), slipping: true)
    expect([visits[Date.new(2026, 4, 29)], windows(Date.new(2026, 4, 29)).untested?(only(Date.new(2026, 4, 29)).row)])
      .to eq [[ripe], true]
    look(ripe + 1, slipping: true)
    expect([visits[ripe + 1], windows(ripe + 1).untested?(only(ripe + 1).row)]).to eq [[], false]
    # Beside a graft at slip the tree is tested in spring.
    decide("B", "whip-and-tongue")
    decide("C", "three-flap")
    expect(visits[Date.new(2026, 4, 20)]).to eq [Date.new(2026, 4, 20)]
  end

  it "send whoever walks their row to the bark, when it slips a second time" do
    decide("A", "shield-bud")
    look(Date.new(2026, 4, 28), slipping: true)
    said = lambda do |day|
      told, come_back = windows(day).spring, Vestry::Records::RevisitList.new(place, day, windows(day))
      line = Vestry::Web::Headline.new(place, day)
      [line.slip(told, come_back, Vestry::Records::DayBoard.new(place, day, windows(day))),
       line.walk("A", told.of_trees(place.trees_of_row("A", most: 9)), told, come_back)]
    end
    expect(said[ripe - 1]).to eq ["Test the bark of A1 from 1 August on: it was not seen to slip yet.",
                                  "Row A: bark lifts no longer."]
    expect(said[ripe]).to eq ["1 tree should slip by now and was not seen to: test the bark of A1.",
                              "Row A: test the bark of A1 again: buds wait until it slips a second time."]
    look(ripe, slipping: true)
    expect(said[ripe].last).to eq "Row A: A1 slips a second time."
  end

  it "have days of their own: none before they open is good for them" do
    decide("A", "shield-bud")
    expect([verdicts(Date.new(2026, 5, 1)), verdicts(ripe)]).to eq [{ "bud" => %w[wait] }, { "bud" => %w[good] }]
    decide("C", "three-flap")
    expect(verdicts(Date.new(2026, 5, 1))).to include("slip" => include("good"), "bud" => %w[wait])
    expect(verdicts(Date.new(2026, 7, 10))).to eq("slip" => %w[wait], "bud" => %w[wait])
  end

  it "want neither stored wood nor a saw" do
    decide("A", "shield-bud")
    day = Date.new(2026, 1, 10)
    board, line = Vestry::Records::TodayBoard.new(place, day), Vestry::Web::Headline.new(place, day)
    expect([line.wood(board.order, board.cellar), line.cuts(2026)])
      .to eq ["1 bud is planned: cut on the day from the summer's growth, and nothing is stored.",
              "What waits in 2026 is set without a saw."]
  end

  it "wait for their day, and are left of no earlier season, while the next is planned for" do
    decide("A", "shield-bud")
    decide("B", "chip-bud", season: 2027)
    told = lambda do |day|
      line, order = Vestry::Web::Headline.new(place, day), Vestry::Records::WoodOrder.new(place, 2027, day)
      [line.plan, order.fresh.transform_keys(&:name)]
    end
    closes = place.bark_forecast(ripe).closes_last
    expect(closes).to be < ripe - 20
    expect(told[closes + 1]).to eq ["1 limb has its day this year yet; 1 more is decided for 2027.",
                                    { "Wren Plum" => 1 }]
    last = place.last_days(ripe).bud
    expect(told[last + 1]).to eq ["1 limb is decided and waiting for the knife in 2027; 1 more is past its last " \
                                  "sensible day.", {}]
    decide("C", "shield-bud")
    expect(told[ripe].first).to eq "2 limbs have their day this year yet; 1 more is decided for 2027."
  end
end

RSpec.describe Vestry::Records::StubWindows, "what stands in for a stub that is late" do
  let(:here) { orchard }
  let(:kind) { variety(here) }

  it "is set without slip, and has its own time yet" do
    stem = limb(tree(here), "A", girth_mm: 130)
    { stem => "rind", limb(stem.tree, "B", girth_mm: 50) => "chip-bud" }.each do |each, technique|
      Vestry::Deeds::DecideLimb.call(each, { role: "work", technique: technique, cut: 700.0, practice: "single",
                                             variety: kind.id, season: 2026, against_reason: "so" },
                                     by: "Orla", season: 2026)
    end
    told = lambda do |day|
      windows = described_class.new(Vestry::Records::Orchard[here.id], day)
      windows.fallback(windows.stubs.find { |stub| stub.row.limb_id == stem.id })&.map { |each| each[:method] }
    end
    closes = Vestry::Records::Orchard[here.id].last_days(Date.new(2026, 6, 1)).of_kind("apple")
    expect(told[closes]).to be_nil
    expect(told[closes + 1]).to include("cleft")
    # Too few weeks are left to harden before frost, by the calendar on 20 October.
    weeks = here.rulebook.value("reckoning.slip.harden_weeks")
    last = Date.new(2026, 10, 20) - (weeks * 7).ceil
    expect([told[last], told[last + 1]]).to match [include("cleft"), []]
  end
end
