# frozen_string_literal: true

RSpec.describe Vestry::Records::BarkForecast do
  let(:here) { orchard }
  let(:today) { Date.new(2026, 3, 1) }
  let(:first) { tree(here) }
  let(:other) { tree(here) }

  # Days of one mean temperature: base 6 for apples, so 10 gives 4 degree-days.
  def weather(from, to, mean, forecast: false)
    Vestry::DB[:weather_days].multi_insert((Date.iso8601(from)..Date.iso8601(to)).map { |day| { orchard_id: here.id,
      day: day, min_c: mean, max_c: mean, forecast: forecast } })
  end

  def springs
    [2022, 2024].each { |year| weather("#{year}-02-01", "#{year}-09-30", 10) }
    [2023, 2025].each { |year| weather("#{year}-02-01", "#{year}-09-30", 8) }
    weather("2026-02-01", "2026-03-01", 7)
  end

  def spring(on = today) = described_class.new(Vestry::Records::Orchard[here.id], on)
  def told(tree, on = today) = spring(on).of_trees([tree]).first
  def see(tree, on, slipping, stage: "green")
    Vestry::Deeds::SeeStage.call(tree, stage: stage, slipping: slipping, on: on, today: [on, today].max, by: "Orla")
  end

  it "goes by the ordinary dates without weather, and says so" do
    expect(told(first)).to have_attributes(basis: "calendar", reached_on: nil)
    expect(told(first, Date.new(2026, 5, 18))).to be_slips
  end

  it "runs past springs on from today" do
    springs
    # 29 gathered, 91 to go, or 26.5 less or more: 17, 23 and 30 days at 4, 33, 46 and 59 at 2. Of the twelve dates
    # the first, the seventh and the last.
    expect(told(first)).to have_attributes(basis: "weather", threshold_dd: 120.0, p10: today + 17, p50: today + 33,
                                           p90: today + 59)
  end

  it "goes by the calendar for a kind that keeps its leaves, whatever the weather" do
    springs
    leafy = tree(here, species: "citrus")
    # Its 75th day from 1 February, three days later a degree north of 38.
    usual = Date.new(2026, 2, 1) + 75 + ((50.6 - 38) * 3).round
    expect(told(leafy)).to have_attributes(basis: "calendar", p50: be_within(1).of(usual))
    expect(told(first).basis).to eq "weather"
  end

  it "believes its eyes: a tree seen to slip slips, one that did not lift comes later" do
    springs
    see(first, Date.new(2026, 2, 27), true)
    see(other, today, false)
    expect(told(first)).to have_attributes(reached_on: Date.new(2026, 2, 27), basis: "seen")
    expect(told(other).p10).to be > today
    weather("2026-03-02", "2026-04-20", 10)
    late = Date.new(2026, 4, 10)
    see(other, late, false)
    expect(told(other, late)).to have_attributes(reached_on: nil, p10: late + 1)
  end

  # 15 mm a day, and none from a day on.
  def rain(dry_from)
    Vestry::DB[:weather_days].where(orchard_id: here.id).where { day >= Date.new(2026, 1, 1) }
      .update(rain_mm: Sequel.case([[Sequel[:day] < dry_from, 15.0]], 0.0))
  end

  it "waits some days longer in dry soil, and not where rain came or none is told" do
    springs
    # Rain to the 7th, and none in the 21 days to the 1st of March: dry. With rain on the 20th it is not.
    later = ->(days) { { p10: today + 17 + days, p50: today + 33 + days, p90: today + 59 + days } }
    rain(Date.new(2026, 2, 20))
    expect(told(first)).to have_attributes(**later[0])
    rain(Date.new(2026, 2, 8))
    expect(spring.dry_on).to eq Date.new(2026, 2, 28)
    expect(told(first)).to have_attributes(**later[5])
  end

  it "takes a graft whose bark lifted cleanly as proof, and one that was lifted reluctantly as none" do
    springs
    made = graft(limb(first), grafted_on: Date.new(2026, 2, 26), bark_slip: "reluctant")
    expect(told(first)).to have_attributes(lifted_on: nil, reached_on: nil)
    made.update(bark_slip: "clean")
    expect(told(first)).to have_attributes(lifted_on: Date.new(2026, 2, 26), reached_on: Date.new(2026, 2, 26),
                                           basis: "seen")
    see(first, Date.new(2026, 2, 20), true)
    expect(told(first).lifted_on).to eq Date.new(2026, 2, 20)
    # The year before proves nothing of this spring.
    made.update(grafted_on: Date.new(2025, 4, 20))
    expect(spring.lifted_at_work([first.id])).to eq({})
  end

  it "remembers a cut that did not lift, whatever was looked at since, and takes bark to have come in time" do
    usual = told(first, Date.new(2026, 5, 20)).reached_on
    see(first, usual + 5, false)
    see(first, usual + 7, nil)
    expect(told(first, usual + 7)).to have_attributes(reached_on: nil, p10: usual + 6, p50: usual + 9)
    expect(told(first, usual + 9)).to have_attributes(reached_on: usual + 9, lifted_on: nil, basis: "calendar")
  end

  it "closes a tree's bark by what was seen of it: not yet, or at last" do
    closes = spring(Date.new(2026, 5, 20)).closes_on("apple")
    see(first, closes - 20, true)
    expect(told(first, closes)).to have_attributes(closes_on: closes, closed_on: nil)
    see(first, closes + 2, true)
    expect(told(first, closes + 2)).to have_attributes(closes_on: closes + 9, closed_on: nil, lifted_on: closes - 20)
    see(first, closes + 4, false)
    expect(told(first, closes + 5)).to have_attributes(closes_on: closes + 3, closed_on: closes + 4)
    # Its second growth.
    see(first, closes + 30, true)
    expect(told(first, closes + 30)).to have_attributes(closes_on: closes + 37, closed_on: nil)
    graft(limb(other), grafted_on: closes + 3, bark_slip: "clean")
    expect(told(other, closes + 4).closes_on).to eq closes + 10
    see(other, closes - 9, false)
    expect(told(other, closes - 8).closed_on).to be_nil
  end

  it "learns the orchard's own warmth, midway between the last cut that did not lift and the first that did" do
    springs
    [[2024, 160, 4], [2025, 160, 2]].each do |year, dd, a_day|
      on = Date.new(year, 2, 1) + dd / a_day - 1
      see(first, on - 2, false)
      see(first, on, true)
    end
    expected = (2 * 120 + (160 - 4) + (160 - 2)) / 4.0
    expect(spring.of_species("apple")[:threshold_dd]).to be_within(1e-6).of(expected)
  end

  it "learns nothing of when bark opens from a first look late in spring, or from one after it closed" do
    springs
    learned = -> { spring.of_species("apple")[:threshold_dd] }
    # 120 are gathered on 1 March at 4 a day: seen to slip then, it may have come before.
    see(first, Date.new(2024, 3, 1), true)
    expect(learned.call).to eq 120.0
    see(other, Date.new(2024, 2, 28), true)
    expect(learned.call).to be_within(1e-6).of((2 * 120 + 28 * 4) / 3.0)
    # It lifts a second time in late summer.
    see(third = tree(here), Date.new(2025, 6, 20), false)
    see(third, Date.new(2025, 8, 1), true)
    expect(learned.call).to be_within(1e-6).of((2 * 120 + 28 * 4) / 3.0)
  end

  it "closes in its time whatever lifts in late summer, and later for what lifts before" do
    first
    closes = spring(Date.new(2026, 8, 2)).closes_on("apple")
    [[Date.new(2026, 7, 31), true], [Date.new(2026, 8, 1), false]].each do |on, later|
      Vestry::DB.transaction(rollback: :always, savepoint: true) do
        see(first, on, true)
        expect([on, spring(on + 1).closes_last > closes, told(first, on + 1).closes_on > closes])
          .to eq [on, later, later]
      end
    end
    # Far in the north the first slip lasts into August.
    north = orchard(latitude: 68.0)
    late = tree(north)
    see(late, Date.new(2026, 8, 20), true)
    told = described_class.new(Vestry::Records::Orchard[north.id], Date.new(2026, 8, 21))
    expect(told.of_trees([late]).first.closes_on).to be > told.closes_on("apple")
  end

  it "knows that a tree was written down as of another kind since" do
    springs
    [2024, 2025].each { |year| [[4, 8], [4, 10]].each { |day| see(first, Date.new(year, *day), day == [4, 10]) } }
    learned = spring.of_species("apple")[:threshold_dd]
    Vestry::DB[:trees].where(id: first.id).update(species: "pear")
    tree(here)
    expect([spring.of_species("apple")[:threshold_dd], learned]).to match [120.0, be > 125]
  end

  it "learns a tree's habit: a late tree is expected later than its kind" do
    springs
    [2024, 2025].each do |year|
      { first => [3, 20], other => [4, 10] }.each do |each, day|
        see(each, Date.new(year, *day) - 2, false)
        see(each, Date.new(year, *day), true)
      end
    end
    expect(told(other).p50).to be > told(first).p50
    expect(told(tree(here)).p50).to be_between(told(first).p50, told(other).p50)
  end

  it "stores a day's forecast until weather or what was seen moves on" do
    springs
    first
    before = spring.of_species("apple")
    expect(Vestry::DB[:derived].where(what: "bark").count).to eq 1
    allow(Vestry::Core::Slip::WarmthProjection).to receive(:new).and_raise("reckoned again")
    expect(spring.of_species("apple")[:p50]).to eq before[:p50]
    RSpec::Mocks.space.proxy_for(Vestry::Core::Slip::WarmthProjection).reset
    weather("2026-03-02", "2026-03-11", 20, forecast: true)
    expect(spring.of_species("apple")[:p50]).to be < before[:p50]
  end

  it "lets the southern spring run over New Year" do
    south = orchard(latitude: -43.2, longitude: 171.0)
    (2021..2024).each do |year|
      Vestry::DB[:weather_days].multi_insert((Date.new(year, 8, 1)..Date.new(year + 1, 5, 1)).map do |day|
        { orchard_id: south.id, day: day, min_c: 7.5, max_c: 7.5 }
      end)
    end
    Vestry::DB[:weather_days].multi_insert((Date.new(2025, 8, 1)..Date.new(2025, 12,
      20)).map { |day| { orchard_id: south.id, day: day, min_c: 6.5, max_c: 6.5 } })
    standing = tree(south, species: "apple")
    on = Date.new(2025, 12, 20)
    answer = described_class.new(Vestry::Records::Orchard[south.id], on).of_trees([standing]).first
    # 71 gathered in 142 days; 49 to go at 1.5 a day.
    expect(answer).to have_attributes(basis: "weather", p50: on + 33)
    expect(answer.p50.year).to eq 2026
  end

  it "starts to count warmth when buds have slept enough, where winters are mild" do
    cold, mild = [5, 21].map do |mean|
      place = orchard
      tree(place)
      Vestry::DB[:weather_days].multi_insert((Date.new(2025, 11, 1)..Date.new(2026, 3, 20)).map do |day|
        { orchard_id: place.id, day: day, min_c: mean - 3, max_c: mean + 3 }
      end)
      described_class.new(Vestry::Records::Orchard[place.id], Date.new(2026, 3, 20))
    end
    expect(cold.chill("apple")).to include(on: Date.new(2026, 2, 1), portions: nil)
    expect(mild.chill("apple")).to include(on: nil, portions: be < 5)
    expect([cold, mild].map { |spring| spring.held_by_chill?("apple") }).to eq [false, true]
    # Fifteen degrees above the base each day since 1 February, and yet nothing counts.
    expect(mild.of_species("apple")[:reached_on]).to be_nil
  end

  it "tells whom to come back to, and when" do
    springs
    kind = variety(here)
    [first, other].each do |standing|
      Vestry::Deeds::DecideLimb.call(limb(standing), { role: "work", technique: "rind", cut: 700.0, practice: "single",
                                                     variety: kind.id }, by: "Orla", season: 2026)
    end
    visits = ->(on) { Vestry::Records::RevisitList.new(Vestry::Records::Orchard[here.id], on,
                                                    Vestry::Records::StubWindows.new(Vestry::Records::Orchard[here.id],
                                                      on)).visits }
    weather("2026-03-02", "2026-04-20", 10)
    on = Date.new(2026, 4, 10)
    expect(visits[on].map { |visit| [visit.told.tree.id, visit.on] }).to eq [[first.id, on], [other.id, on]]
    stub_const("Vestry::Records::RevisitList::DAYS", 1)
    told = Vestry::Records::RevisitList.new(here, on, Vestry::Records::StubWindows.new(here, on))
    expect([told.days.map { |day, all| [day, all.size] }, told.later]).to eq [[[on, 2]], 0]
    see(first, on, false)
    told = Vestry::Records::RevisitList.new(Vestry::Records::Orchard[here.id], on,
                                         Vestry::Records::StubWindows.new(Vestry::Records::Orchard[here.id], on))
    expect([told.days.map { |day, all| [day, all.size] }, told.later]).to eq [[[on, 1]], 1]
    see(first, on, true)
    see(other, on, false)
    expect(visits[on].map { |visit| [visit.told.tree.id, visit.on] }).to match [[other.id, be > on]]
  end

  it "goes by the calendar, and past its day, where no spring was ever warm enough" do
    [2023, 2024, 2025].each { |year| weather("#{year}-02-01", "#{year}-09-30", 6) }
    weather("2026-02-01", "2026-05-10", 6)
    first
    # Its ordinary day of 2026 (see above), on the day before it and from it on.
    usual = Date.new(2026, 4, 16)
    told = ->(on) { spring(on).of_species("apple").values_at(:reached_on, :p50, :basis) }
    expect([usual - 1, usual, usual + 20].map(&told))
      .to eq [[nil, usual, "calendar"], [usual, nil, "calendar"], [usual, nil, "calendar"]]
  end

  it "goes by the calendar where the weather fell silent before the spring" do
    here = orchard
    tree(here)
    (2022..2025).flat_map { |year| (Date.new(year, 1, 1)..Date.new(year, 6, 20)).to_a }.each do |day|
      Vestry::DB[:weather_days].insert(orchard_id: here.id, day: day, min_c: 5, max_c: 15)
    end
    told = ->(on) { Vestry::Records::BarkForecast.new(Vestry::Records::Orchard[here.id], on).of_species("apple") }
    expect(told.call(Date.new(2026, 1, 10))[:basis]).to eq "weather"
    expect(told.call(Date.new(2026, 4, 20))).to include(basis: "calendar", reached_on: Date.new(2026, 4, 16))
    expect(told.call(Date.new(2026, 3, 20))).to include(basis: "calendar", p50: Date.new(2026, 4, 16))
  end
end

RSpec.describe Vestry::Records::BarkForecast, "before the biofix" do
  let(:here) { orchard }

  # Five past years of which every day is 10 degrees: warmth gathers from January on, were it counted.
  before do
    tree(here)
    days = (2021..2025).flat_map { |year| (Date.new(year, 1, 1)..Date.new(year, 12, 31)).to_a }
    Vestry::DB[:weather_days].multi_insert(days.map { |day| { orchard_id: here.id, day: day, min_c: 10, max_c: 10 } })
  end

  def likely(today) = described_class.new(Vestry::Records::Orchard[here.id], today).of_species("apple")[:p50]

  it "counts no warmth of the days before the biofix, however early it is asked" do
    # 120 degree-days above 6 at 4 a day are 30 days from 1 February.
    asked = [Date.new(2025, 11, 20), Date.new(2026, 1, 5), Date.new(2026, 1, 31)].map { |today| likely(today) }
    expect(asked).to eq [Date.new(2026, 3, 2)] * 3
  end
end
