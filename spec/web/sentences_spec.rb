# frozen_string_literal: true

RSpec.describe Vestry::Web::Sentences do
  let(:here) { orchard(units: "metric") }
  let(:voice) do
    place = here
    Class.new do
      include Vestry::Web::Helpers::Words
      include Vestry::Web::Helpers::Workings::GraftWorkings
      include Vestry::Web::Sentences
      define_method(:orchard) { place }
    end.new
  end

  # Every reason the reckonings can give, from inputs that bring each of them about.
  def reasons
    graft = { grafted_on: "2026-04-20", method: "rind", species: "apple", sticks: 3 }
    visits = [[], [{ on: "2026-05-01", buds: "swelling" }],
              [{ on: "2026-05-20", buds: "leafing", longest_shoot_mm: 200 }], [{ on: "2026-06-01", verdict: "failed" }]]
    weather = Array.new(10) { |i| { date: (Date.new(2026, 4, 20) + i).iso8601, min_c: 6, max_c: 17 } }
    methods = [[62, 9], [25, 15.5], [300, 40], [16, nil]].product([true, false], [nil, "waxed-rind"])
      .flat_map do |(stock, scion), slipping, school|
      reckon("methods", stock_mm: stock, scion_mm: scion, slipping: slipping, species: "apple",
             school: school)[:ranking].flat_map { |row| row[:reasons] }
    end
    sticks = %w[single pair ring].product([80, 20], [nil, 40], [20, 60]).flat_map do |practice, rise, flat, wood|
      reckon("sticks", wood_diameter_mm: wood, practice: practice, rise_deg: rise, flat_deg: flat,
             wind_from_deg: flat)[:reasons]
    end
    care = visits.product(%w[waxed-rind covered-inlay film-wrap], [[], weather]).flat_map do |seen, school, days|
      reckon("care", graft: graft, school: school, today: "2026-06-10", observations: seen, weather: days)[:tasks]
        .flat_map { |task| task[:reasons] }
    end
    methods + sticks + care
  end

  def reckon(name, input) = Vestry::Core.reckoning(name).reckon(JSON.parse(JSON.generate(input)))

  it "has a sentence for every reason there is" do
    said = reasons.map { |reason| [reason[:code], voice.say(reason)] }
    expect(said.map(&:first).uniq.size).to be > 15
    expect(said.map(&:last)).to all(match(/\A[A-Z0-9“].*[.!?]\z/m))
    expect(said.map(&:last).join).not_to match(/\d\.\d{3,}|nil|NaN|\bmethods?\.\w/)
  end

  it "says how far wood that is short is stretched, and with what" do
    told = %w[thin short_sticks one_bud single_buds].zip([2, 1, 3, 1]).map do |way, number|
      voice.say_stretched(enough: way, way.to_sym => number)
    end
    expect(told).to eq ["One stick a stub instead of several saves 2.", "Cut to two buds, the wood gives 1 stick.",
                        "Cut to one bud, each about 65 mm long, the wood gives 3 sticks.",
                        "Worked as single buds, it serves 1 place."]
    expect(voice.say_stretched(enough: nil))
      .to eq "Nothing stretches it far enough: find more, or drop stubs."
  end

  it "counts one as one, and parts a long number in threes" do
    told = [0, 1, 2, 9999, 20_000, 1_234_567].map { |number| voice.counted(number, "tree") }
    expect(told).to eq ["0 trees", "1 tree", "2 trees", "9999 trees", "20\u202F000 trees", "1\u202F234\u202F567 trees"]
  end

  it "says a figure of the rulebook with its unit, one of what is many" do
    said = [[1, "sticks"], [2, "sticks"], [1, "times"], [[1, 3], "days"], [1, nil], [1.0, "share of the wound"],
            [[34, 28, 22], "degrees"], [[[3, 4], [6, 9]], "shoots"], [[30, nil], "mm"], [{ "jug" => 1000 }, "ml"],
            [56, "day of the working year"]]
    expect(said.map { |value, unit| voice.book_figure(value, unit) })
      .to eq ["1 stick", "2 sticks", "1 time", "1 to 3 days", "1", "1 share of the wound",
                  "34, 28, 22 degrees", "3 to 4, 6 to 9 shoots", "from 30 mm", "jug: 1000 ml",
                  "day 56 of the working year"]
  end

  it "says where a limb points by the nearest of sixteen points, and how many nurses are wanted" do
    expect([0, 11, 12, 45, 200, 348, 349, 360, nil].map { |deg| voice.bearing(deg) })
      .to eq ["N (0°)", "N (11°)", "NNE (12°)", "NE (45°)", "SSW (200°)", "NNW (348°)", "N (349°)", "N (360°)", "–"]
    told = [[0, 1], [0, 2], [1, 2]].map { |have, wanted| voice.say(code: "plan_no_nurse", have: have, wanted: wanted) }
    expect(told.map { |words| words[/\A[^.]+/] })
      .to eq ["No nurse limb is kept; the school wants one", "No nurse limb is kept; the school wants two",
              "Only 1 nurse limb is kept; the school wants two"]
  end

  it "says how much a bag warms in the orchard's own degrees" do
    warm = { code: "kind_warm", species: "walnut", bag: true }
    expect(voice.say(warm)).to end_with "put a bag over the union: it adds some 3 °C."
    voice.orchard.units = "imperial"
    expect(voice.say(warm)).to match(/it adds some 5\.?4? °F\.\z/)
    expect(voice.say({ **warm, bag: false })).to end_with "near its best, under the bag."
  end

  it "says of a head what its quarters say" do
    say = lambda do |form, *bearings|
      limbs = bearings.map { |deg| { id: deg, share: 1.0 / bearings.size, bearing_deg: deg } }
      voice.say_balance(Vestry::Core::Survey::Head.balance(limbs), Struct.new(:form).new(form))
    end
    expect(say.call("bush", 0, 90, 180, 270)).to include("even round the compass")
    expect(say.call("bush", 90, 270)).to include("leans nowhere, but is bare to the north and south")
    expect(say.call("bush", nil)).to eq "What stands is the leader alone."
    expect(say.call("wall-trained", 90, 270)).to include("even along its wall")
    expect(say.call("bush", 90)).to include("leans E (90°): 100 % out of balance")
  end

  it "says wind, small figures and lengths in prose in an orchard's own units" do
    words = "Leave 10 to 25 mm, about 25 mm above; sticks of 150-200 mm"
    expect([voice.wind_speed(10.0), voice.closing_rate(2.04), voice.in_own_units(words)])
      .to eq ["10 m/s", "2.0 mm", words]
    here.update(units: "imperial")
    expect([voice.wind_speed(10.0), voice.closing_rate(2.04), voice.in_own_units(words)])
      .to eq ["22 mph", "0.08 in", "Leave 3/8 to 1 in, about 1 in above; sticks of 6-8 in"]
  end

  it "says what is beyond a range so that it does not read as if it were within" do
    past = { mm: 24.7, from_mm: 25, to_mm: 150 }
    expect(voice.say_stock_outside(past)).to eq "24.7 mm is outside what it works, 25.0 mm to 150.0 mm."
    here.update(units: "imperial")
    expect(voice.say_stock_workable(mm: 5.6, from_mm: 6, to_mm: nil)).to eq "7/32 in is workable; best from 1/4 in up."
    expect(voice.say_scion_outside(mm: 12, from_mm: 4, to_mm: 8))
      .to eq "A stick of 1/2 in is outside what it works, 3/16 in to 5/16 in."
  end

  it "says when the crop is back, in the middle future and in eight of ten" do
    said = ->(low, middle, high) { voice.say_crop_back({ p10: low, p50: middle, p90: high }, 2026) }
    expect([said[3, 3.4, 3], said[2, 3, 5], said[4, 6, nil], said[nil, nil, nil]])
      .to eq ["2029", "2029, between 2028 and 2031", "2032, between 2030 and later than 2035", "later than 2035"]
  end

  it "says what needs no slip, with the sticks that it wants" do
    row = { method: "cleft", scion_wanted_mm: [8.0, 14.0], expected_take: 0.78 }
    expect([voice.say_instead(row), voice.say_instead(row.merge(scion_wanted_mm: nil))])
      .to eq ["cleft graft, dormant or awake, with sticks of 8 mm to 14 mm; 78 % of single sticks take",
              "cleft graft, dormant or awake; 78 % of single sticks take"]
  end

  it "says of bark that it does not slip yet, and not that it may with no likelihood" do
    expect(voice.say_day_slip(likely: 0.0)).to eq "Bark does not slip yet."
    expect(voice.say_day_slip(likely: 0.4)).to eq "Bark slips with 40 % likelihood."
  end

  it "says one and all" do
    expect([1, 2].map { |many| voice.all_of(many, "stub") }).to eq ["The one stub", "Both stubs"]
    expect([1, 2].map { |many| voice.counted_are(many, "limb") }).to eq ["1 limb is", "2 limbs are"]
  end

  it "says for how many days no thermometer told anything" do
    said = [24.0, 72.0, 90.0].map { |hours| voice.say_storage_silent({ hours: hours, celsius: 6.0 })[/\A[^:]+/] }
    expect(said).to eq ["No reading for 1 day", "No reading for 3 days", "No reading for 4 days"]
  end

  it "asks for no more of a season than what would do" do
    asked = [0.28, 0.29, 0.57, 0.2801, 1.0 / 3].map { |share| voice.say_stages_higher_cap(cap: share)[/\d+/].to_i }
    expect(asked).to eq [28, 29, 57, 29, 34]
  end

  it "says why a stub has a pair of sticks, or one though a pair was wanted" do
    said = [2, 1].map { |count| voice.say_sticks_pair(count: count, wood_mm: 38.0) }
    expect(said).to eq ["A pair: there is room for two on 38 mm of wood.", "One: 38 mm of wood has no room for a pair."]
  end

  it "says a conflict in words, with a way out" do
    expect(voice.say_conflict(["browse"]))
      .to eq "No place to cut: the limb is nowhere above what the animals reach. What would help: guard the graft, " \
             "or keep the limb as a nurse."
    expect(voice.say_conflict(%w[browse reach]))
      .to include("above the animals and the mower and within reach cannot hold together", ", or ")
  end

  it "says figures in the orchard's own units" do
    here.update(units: "imperial")
    expect(voice.say(code: "scion_wanted", from_mm: 6.35, to_mm: 12.7)).to eq "Wants sticks of 1/4 in to 1/2 in."
  end

  it "counts, lists and points as people do" do
    expect([voice.counted(1, "stick"), voice.counted(2, "stick"), voice.counted(3, "variety", "varieties")])
      .to eq ["1 stick", "2 sticks", "3 varieties"]
    expect([voice.listed(%w[A]), voice.listed(%w[A B C]), voice.listed([])]).to eq ["A", "A, B and C", ""]
    expect([voice.bearing(0), voice.bearing(359), voice.bearing(137), voice.bearing(nil)])
      .to eq ["N (0°)", "N (359°)", "SE (137°)", "–"]
  end

  it "says until when another like it can be set, and of bark only where its method needs it" do
    on = Date.new(2026, 6, 8)
    of = { until: on, from: on, opens: on, sticks: 2 }
    said = %i[say_answer_regraft_now say_answer_regraft_soon say_answer_beside_now say_answer_beside_soon
              say_answer_rejoin_soon].to_h do |code|
      [code, [{}, { at_rest: true }].map { |more| voice.send(code, { **of, **more }).match?(/bark slips/i) }]
    end
    expect(said.values).to all(eq([true, false]))
    expect(voice.say_answer_regraft_now({ **of, lost: "blown-out" })).to start_with "Blown out. Bark slips until"
    expect(voice.say_storage_unmeasured({ hours: 720.0 })).to start_with "Nobody measured its first 30 days: it"
    expect(voice.say_answer_spring({ lost: "browsed" })).to start_with "Browsed off, and too late even for a bud"
    expect(voice.say_answer_regraft_now({ **of, at_rest: true }))
      .to start_with "Dead. Another like it can be set until about 8 June 2026 and there are 2 sticks of it left:"
  end

  it "says one as one and many as many" do
    day = Date.new(2026, 6, 8)
    said = [1, 2].map do |many|
      [voice.say_stages_fewer_do(seasons: many)[/out: (.+)/, 1], voice.say_nurse_waiting(stubs: many),
       voice.say_answer_regraft_now(until: day, sticks: many, from: day)[/there (.+?) of it/, 1],
       voice.say_learned([{ used: "yes" }] * many)]
    end
    expect(said).to eq [
      ["1 season is enough.", "1 limb is still to be worked or to take.", "is one stick",
       "1 figure of this orchard's own is reckoned with."],
      ["2 seasons are enough.", "2 limbs are still to be worked or to take.", "are 2 sticks",
       "2 figures of this orchard's own are reckoned with."]
    ]
    expect(voice.say_learned([{ used: "no" }])).to start_with "Every figure here is still the book's"
  end

  it "counts what of a list is not shown" do
    expect([voice.some_of([1, 2, 3], 2), voice.some_of([1, 2], 2), voice.some_of([], 2)])
      .to eq [[[1, 2], 1], [[1, 2], 0], [[], 0]]
  end
end

RSpec.describe Vestry::Web::Headline do
  let(:here) { orchard(name: "Trial Hill") }
  let(:today) { World::TODAY }
  let(:line) { described_class.new(here, today) }
  let(:stock) { limb(tree(here)) }

  it "says where to begin with an empty orchard" do
    said = lambda do
      headline = described_class.new(Vestry::Records::Orchard[here.id], today)
      [headline.survey, headline.plan, headline.graft, headline.tend(Vestry::Records::Agenda.new(here, today)),
       headline.tally([])]
    end
    expect(said.call).to eq ["No tree stands here yet: add the first one.",
                             "No tree stands here yet: add trees under Survey, and their limbs.",
                             "No tree stands here yet: stubs wait here for their day.",
                             "No tree stands here yet: what each graft wants is told here.",
                             "No tree stands here yet: grafts are counted here each autumn."]
    first = tree(here)
    expect(said.call[1]).to eq "A1 has no limbs surveyed yet: measure them, then say what becomes of each."
    limb(first)
    tree(here)
    expect(said.call[1]).to eq "No limb waits to be worked in 2026: choose a tree and mark its limbs."
    expect(said.call.drop(2)).to eq [
      "No stub is ready to be grafted in 2026: plan limbs first, each with its cut, method and variety.",
      "Nothing is due today.", "No graft stands to be counted."
    ]
  end

  it "follows a limb from nothing decided to what is due" do
    expect(line.limb(stock)).to eq "A1 A has nothing decided: work it, keep it or lift it."
    Vestry::Deeds::DecideLimb.call(stock, { role: "work" }, by: "Orla", season: 2026)
    expect(line.limb(here.limb!(stock.id))).to eq "A1 A is to be worked; choose its cut, method and variety."
    expect(line.graft)
      .to eq "No stub is ready to be grafted in 2026: A1 A still lacks a cut, a method or a variety."
    expect(line.act.to_h).to include(station: "plan", path: "/trees/#{stock.tree_id}?limb=#{stock.id}")
    # Not in autumn, when nothing of it can be done in that season any more.
    expect(described_class.new(here, Date.new(2026, 10, 9)).graft).not_to include "lacks"
    graft(stock)
    expect(line.limb(here.limb!(stock.id)))
      .to eq "A1 A, grafted with Skylark Russet on 21 April: first look by 19 May."
  end

  it "says since when something is late" do
    graft(stock)
    expect(described_class.new(here, Date.new(2026, 5, 26)).limb(here.limb!(stock.id)))
      .to match(/on 21 April: .+, late since \d+ May\.\z/)
  end

  it "says from when a stub can be grafted, as long as it cannot, and then to log it" do
    place = demo
    say = ->(day) { described_class.new(place, Date.iso8601(day)).graft }
    expect(say["2026-01-10"]).to match(/\A\d+ stubs are waiting on .+; the first can be grafted from about \d+ \w+\.\z/)
    waiting = Vestry::Records::StubWindows.new(place, Date.new(2026, 1, 10)).stubs
    first = waiting.map { |stub| stub.window[:opens_on] }.min
    # On the very day some can be.
    expect(say[(first - 1).iso8601]).to match(/; the first can be grafted from about \d+ \w+\.\z/)
    expect(say[first.iso8601]).to match(/; \d+ can be grafted now, the others from about \d+ \w+\.\z/)
    expect(say["2026-05-18"]).to end_with("; 2 can be grafted now, 12 once their bark is seen to slip.")
  end

  it "says how far the weather is known, and from two days on that it is only so far" do
    expect(line.weather).to start_with "No weather is kept here yet"
    known = lambda do |day|
      Vestry::DB[:weather_days].delete
      Vestry::DB[:weather_days].insert(orchard_id: here.id, day: day, min_c: 2, max_c: 12)
      described_class.new(Vestry::Records::Orchard[here.id], today).weather
    end
    expect([today, today - 2].map(&known)).to all(start_with("The weather is known to"))
    expect(known[today - 3]).to start_with "The weather is known only to 15 May"
  end

  it "sends nobody to a stub past its last sensible day, nor to test its bark" do
    place = demo
    says = ->(day) { described_class.new(place, day) }
    stubs = ->(day) { Vestry::Records::StubWindows.new(place, day) }
    to_test = ->(day) { Vestry::Records::RevisitList.new(place, day, stubs[day]).due.size }
    # Apples are worked until 8 June, and wood for the pears on E3 lasts into July.
    last = stubs[Date.new(2026, 6, 1)].stubs.find { |stub| stub.row.limb.tree.species == "apple" }
      .window[:ends]["bark_closes_on"]
    expect([says[last].graft, to_test[last]]).to match [/\A14 stubs are waiting on /, 5]
    expect([says[last + 1].graft, to_test[last + 1]])
      .to match [/\ATwo stubs are waiting on E3; .+; 12 more are past their last sensible day\.\z/, 0]
    expect(says[Date.new(2026, 8, 20)].graft)
      .to end_with("were not grafted by their last sensible day: move them to 2027 under Plan.")
    # Each of them says so of itself, and before its time from when on.
    one = place.planned(:stubs, 2026).rows.map(&:limb).find { |each| each.label == "A6 A" }
    said = ->(day) { %i[limb bench].map { |of| says[day].public_send(of, Vestry::Records::Limb[one.id])[0, 60] } }
    expect(said[last]).to match [/\AA6 A is to become Tollgate Amber in 2026: /, /\AA6 A, rind graft: 2 sticks /]
    expect(said[last + 1]).to all(start_with("A6 A was to become Tollgate Amber in 2026"))
    expect(said[Date.new(2026, 1, 20)].last).to match(/\AA6 A, rind graft, not before about \d+ April: 2 /)
  end

  it "says on the front page when the next good day for grafting is, as a sentence of its own" do
    place = demo
    told = [15, 16].map do |day|
      described_class.new(Vestry::Records::Orchard[place.id], Date.new(2026, 5, day)).front.words["graft"][/\. .+\z/]
    end
    expect(told).to eq [". The next good day is Saturday, 16 May.", ". Today is a good day."]
  end

  it "counts each limb of a tree once: to be worked, later, grafted, or to be worked again" do
    tree = stock.tree
    says = -> { line.tree(Vestry::Records::Tree[tree.id]) }
    %w[B C].each { |tag| Vestry::Deeds::DecideLimb.call(limb(tree, tag), { role: "work" }, by: "Orla", season: 2026) }
    Vestry::Deeds::DecideLimb.call(stock, { role: "nurse" }, by: "Orla", season: 2026)
    expect(says.call).to eq "A1: 2 limbs to be worked, none grafted yet, 1 nurse limb kept."
    row = Vestry::Deeds::DecideLimb.call(limb(tree, "D"), { role: "later", season: 2027 }, by: "Orla", season: 2026)
    expect(says.call).to eq "A1: 2 limbs to be worked, 1 later, none grafted yet, 1 nurse limb kept."
    # When its season is the one that is planned, it is worked now.
    expect(described_class.new(here, Date.new(2027, 3, 1)).tree(Vestry::Records::Tree[tree.id]))
      .to eq "A1: 3 limbs to be worked, none grafted yet, 1 nurse limb kept."
    row.delete
    stubs = Vestry::Records::Limb.where(tree_id: tree.id, tag: %w[B C]).order(:tag).all
    # One of them is decided in full, and its last sensible day is over.
    Vestry::Records::PlanLimb.first(limb_id: stubs[0].id)
      .update(cut_mm: 600, technique: "rind", sticks: 2, variety_id: variety(here, "Late").id)
    expect(described_class.new(here, Date.new(2026, 9, 1)).tree(Vestry::Records::Tree[tree.id]))
      .to eq "A1: 1 limb to be worked, 1 not grafted in time, 1 nurse limb kept."
    first = graft(stubs[0])
    expect(says.call).to eq "A1: 1 limb grafted, 1 to be worked, 1 nurse limb kept."
    graft(stubs[1])
    expect(says.call).to eq "A1: 2 limbs grafted, 1 nurse limb kept."
    first.update(lost_on: today, lost_cause: "failed")
    expect(says.call).to eq "A1: 1 limb grafted, 1 lost, 1 nurse limb kept."
    Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb[stubs[0].id], { role: "work", season: 2027 }, by: "Orla",
                                   season: 2026)
    expect(says.call).to eq "A1: 1 limb grafted, 1 to be worked again, 1 nurse limb kept."
    Vestry::Records::PlanLimb.where(limb_id: stubs[0].id).delete
    expect(says.call).to eq "A1: 1 limb grafted, 1 lost, 1 nurse limb kept."
    Vestry::Records::PlanLimb.first(limb_id: stubs[1].id).update(role: "backup")
    expect(says.call).to eq "A1: 1 limb grafted, 1 lost, 1 nurse limb kept; C, its backup, lives."
    first.update(lost_on: nil, lost_cause: nil)
    expect(says.call).to eq "A1: 2 limbs grafted, 1 nurse limb kept."
  end

  it "puts an alarm before everything else that is due" do
    graft(stock, grafted_on: Date.new(2026, 4, 10))
    early = graft(limb(stock.tree, "B"), grafted_on: Date.new(2026, 5, 6))
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: early.id, seen_on: Date.new(2026, 5, 14),
                                        buds: "swelling")
    expect(line.tend(Vestry::Records::Agenda.new(here, today)))
      .to eq "A1 B moved before it can have knit: shade it and look at its seals today."
  end

  it "tells one that moved too soon to be shaded while that helps, and later that nobody saw it take" do
    made = graft(stock)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 4, 28),
                                  buds: "leafing", callus: "none")
    said = lambda do |day|
      described_class.new(Vestry::Records::Orchard[here.id], day).limb(Vestry::Records::Limb[stock.id])
    end
    expect(said[today]).to eq "A1 A moved before callus can have knit: shade it and look at its seals."
    expect(said[Date.new(2026, 10, 20)]).not_to include("moved before")
  end

  it "says of wood whose thermometer fell silent how it was taken to lie, and that its life is spent" do
    kind, store = variety(here), Vestry::Records::Store.create(orchard_id: here.id, name: "Fridge")
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, source: "row S",
                                            cut_on: Date.new(2026, 1, 20))
    Vestry::Records::Stick.add(bundle, Array.new(4))
    Vestry::DB[:bundle_stays].insert(orchard_id: here.id, bundle_id: bundle.id, store_id: store.id,
                                     since: Time.utc(2026, 1, 20))
    Vestry::DB[:store_readings].multi_insert((0..30).map do |n|
      { orchard_id: here.id, store_id: store.id, at: Time.utc(2026, 1, 20) + n * 86_400, celsius: 2 }
    end)
    said = lambda do |day|
      headline = described_class.new(Vestry::Records::Orchard[here.id], day)
      kept = Vestry::Records::WoodStore.new(headline.orchard, day).keep(Vestry::Records::Bundle[bundle.id])
      silent = kept.advice.map { |each| headline.say(each)[/No reading for \d+ days/] }
      [headline.bundle(kept)[/life is spent/], *silent]
    end
    expect(said[Date.new(2026, 2, 19)].compact).to eq []
    expect(said[today].compact).to eq ["No reading for 88 days"]
    expect(said[Date.new(2026, 9, 20)].compact).to eq ["life is spent", "No reading for 213 days"]
    # The page of the store it lies in says the same of it.
    readings = store.readings(today)
    expect(Vestry::Records::WoodStore.new(here, today).aged_by(readings)[:silent_hours]).to eq 88 * 24.0
  end

  it "counts the grafts of a tree that have become limbs" do
    report = lambda do |limbs, grafts|
      lines = Array.new(grafts) do |i|
        Struct.new(:told).new([{ code: i < limbs ? "scaffold_is_limb" : "scaffold_closing" }])
      end
      Struct.new(:tree, :lines, :varieties).new(stock.tree, lines, [])
    end
    expect([[0, 1], [0, 3], [1, 3], [2, 3]].map { |counts| line.scaffold(report[*counts]) })
      .to eq ["A1: its graft has not become a limb yet.", "A1: none of its 3 grafts has become a limb yet.",
              "A1: 1 of 3 grafts has become a limb.", "A1: 2 of 3 grafts have become limbs."]
  end

  it "names at most four trees and counts the others" do
    6.times { limb(tree(here)) }
    expect(line.survey).to eq "A1, A2, A3, A4 and 2 more have no plan yet: choose a tree and read its limbs."
  end

  it "says what broke before what has no plan, whichever trees are looked at, and that none is as it is looked for" do
    Vestry::Records::LimbEvent.create(orchard_id: here.id, limb_id: stock.id, kind: "broken", left_mm: 400,
                                      by: "Orla Finch", happened_on: today - 30)
    said = "#{stock.label} broke on 18 April: graft it, leave it to a branch, or renew it."
    expect([line.survey, line.survey(trees: 1), line.survey(found: 1)]).to eq [said] * 3
    expect(line.survey(found: 0)).to eq "No tree here is all of that: ask for less at once."
  end
end
