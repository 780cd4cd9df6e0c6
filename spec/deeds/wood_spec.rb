# frozen_string_literal: true

RSpec.describe "Wood" do
  let(:here) { orchard }
  let(:today) { Date.new(2026, 3, 1) }
  let!(:kind) { variety(here) }
  let(:every_check) { Vestry::Deeds::MakeBundle::CHECKS.keys.map(&:to_s) }

  def refusal
    yield
    nil
  rescue Vestry::Deeds::Refused => e
    e.errors
  end

  def make(**changed)
    Vestry::Deeds::MakeBundle.call(here, { variety: kind.id, source: "a neighbour", cut_on: Date.new(2026, 1, 16),
                                           diameters: [8.0, 9.0, 9.5, 11.0, 8.0], checked: every_check }.merge(changed),
                                   by: "Orla", today: today)
  end

  def left(bundle) = Vestry::Deeds::MoveSticks.left(bundle)

  it "is ordered to come today at the soonest" do
    order = lambda do |wanted_by|
      refusal do
        Vestry::Deeds::OrderWood.call(here, { kind.id.to_s => "5" }, season: 2026, source: "A nursery",
                                                                     wanted_by: wanted_by, by: "Orla", today: today)
      end
    end
    expect([order[today - 1], order[today], order[nil]]).to eq [{ wanted_by: ["is before today"] }, nil, nil]
    expect(Vestry::Records::WoodPromise.order(:id).select_map(:wanted_by)).to eq [today, nil]
  end

  it "lies in a store from the day on which it came there, where that is not the day on which it was cut" do
    fridge = Vestry::Deeds::KeepStore.open(here, "Fridge", by: "Orla")
    since = ->(**more) { make(store: fridge.id, **more).stays.map { |stay| stay[:since].to_date } }
    expect(since.call).to eq [Date.new(2026, 1, 16)]
    expect(since.call(laid_in: today)).to eq [today]
    expect(since.call(laid_in: Date.new(2026, 1, 16))).to eq [Date.new(2026, 1, 16)]
    expect(refusal { make(store: fridge.id, laid_in: Date.new(2026, 1, 15)) })
      .to eq(laid_in: ["is before it was cut on 16 January 2026"])
    expect(refusal { make(store: fridge.id, laid_in: today + 1) }.keys).to eq [:laid_in]
    # A warm fortnight before it came is none of its own.
    [[20, 25.0], [30, 25.0], [46, 1.0], [58, 1.0]].each do |day, celsius|
      Vestry::DB[:store_readings].insert(orchard_id: here.id, store_id: fridge.id, celsius: celsius,
                                         at: Time.utc(2026, 1, 1) + day * 86_400)
    end
    kept = [nil, Date.new(2026, 2, 15)].map do |day|
      made = make(store: fridge.id, **{ laid_in: day }.compact)
      Vestry::Records::WoodStore.new(Vestry::Records::Orchard[here.id], today).aged(made).last[:equivalent_days]
    end
    expect(kept.last).to be < kept.first
  end

  describe "making a bundle" do
    it "counts its sticks and their sizes" do
      expect(make.sticks.map { |stick| stick.diameter_mm.to_f }).to eq [8, 9, 9.5, 11, 8]
      expect(make(diameters: nil, count: 7).left).to eq 7
    end

    it "is refused with older wood, without a source, or dated ahead" do
      expect(refusal { make(checked: every_check - ["growth"]) }[:checked].first).to include("below the ring scar")
      expect(refusal { make(source: nil) }).to include(:tree)
      expect(refusal { make(source: nil, tree: "Q9") }[:tree].first).to include("Q9")
      expect(refusal { make(cut_on: today + 1) }).to include(:cut_on)
      expect(refusal { make(diameters: nil) }).to include(:count)
      expect(refusal { make(count: 4) }[:count].first).to include("5 diameters")
      expect(refusal { make(variety: variety(here, "Locked", protected: true).id) }[:variety].first)
        .to include("protected")
      expect(Vestry::Records::Bundle.count).to eq 0
    end

    it "is of what grows on the tree it was cut from, by itself or grafted" do
      amber, plum = variety(here, "Amber"), variety(here, "Sloe Bank", species: "plum")
      own, unknown = tree(here), tree(here)
      own.update(variety_id: amber.id)
      from = ->(tree, kind) { refusal { make(source: nil, tree: tree.label, variety: kind.id) } }
      expect([from[own, amber], from[unknown, amber], from[unknown, kind]]).to eq [nil, nil, nil]
      expect(from[own, kind][:tree]).to eq ["A1 carries Amber, and no #{kind.name} was grafted on it: say another " \
                                            "tree or variety, or correct what the tree carries"]
      expect(from[unknown, plum][:tree].first).to start_with("A2 is apple, and no Sloe Bank was grafted on it")
      graft(limb(own), variety_id: kind.id, grafted_on: Date.new(2024, 4, 20))
      expect(from[own, kind]).to be_nil
    end

    it "lies where it was laid in from the day that is said of it, whichever that is" do
      cellar, fridge = %w[Cellar Fridge].map { |name| Vestry::Deeds::KeepStore.open(here, name, by: "Orla") }
      bundle = make(store: cellar.id, cut_on: Date.new(2026, 1, 16))
      since = -> { bundle.stays.map { |stay| [stay[:store_id], stay[:since].to_date.to_s] } }
      said = lambda do |day|
        Vestry::Deeds::KeepBundle.date(bundle.refresh, Date.iso8601(day), by: "Orla", today: today)
        since.call
      end
      expect(said["2026-01-10"]).to eq [[cellar.id, "2026-01-10"]]
      expect(said["2026-01-20"]).to eq [[cellar.id, "2026-01-20"]]
      Vestry::Deeds::KeepBundle.move(bundle, fridge.id, on: Date.new(2026, 2, 1), by: "Orla")
      expect(said["2026-01-22"]).to eq [[cellar.id, "2026-01-22"], [fridge.id, "2026-02-01"]]
      expect(said["2026-02-05"]).to eq [[fridge.id, "2026-02-05"]]
      Vestry::Deeds::KeepBundle.check(bundle, "sound", on: Date.new(2026, 2, 8), note: nil, by: "Orla")
      expect(refusal { said["2026-02-09"] }[:cut_on].first).to include("is after it was looked at on 8 February 2026")
    end

    it "is made once for the same form" do
      key = SecureRandom.uuid
      expect([make(client_key: key).id, make(client_key: key).id].uniq.size).to eq 1
      expect(Vestry::Records::Stick.count).to eq 5
    end

    it "cannot hold a stick that is no stick" do
      expect { Vestry::DB[:sticks].insert(orchard_id: here.id, bundle_id: make.id, number: 9, diameter_mm: 90) }
        .to raise_error(Sequel::CheckConstraintViolation)
    end
  end

  describe "sticks that come and go" do
    it "splits, lends, takes back and throws out, never below none" do
      bundle = make
      part = Vestry::Deeds::MoveSticks.split(bundle, 2, by: "Orla")
      expect([left(bundle), left(part), part.parent_id]).to eq [3, 2, bundle.id]
      expect(Vestry::Deeds::MoveSticks.send_off(bundle, 2, "lent", to: "a neighbour", on: today, by: "Orla")).to eq 1
      expect(refusal { Vestry::Deeds::MoveSticks.send_off(bundle, 2, "discarded", to: "", on: today,
                                                          by: "Orla") }[:count].first)
                  .to include("only 1 left", "Orla took some last")
      expect(Vestry::Deeds::MoveSticks.receive(bundle, 3, by: "Orla")).to eq 4
      expect(bundle.sticks_dataset.count).to eq 4
      expect(refusal { Vestry::Deeds::MoveSticks.send_off(bundle, 1, "lent", to: " ", on: today, by: "Orla") })
        .to include(:to)
      expect(refusal { Vestry::Deeds::MoveSticks.send_off(bundle, -1, "discarded", to: "", on: today, by: "Orla") })
        .to include(:count)
      expect(refusal { Vestry::Deeds::MoveSticks.split(bundle, 4, by: "Orla") }).to include(:count)
    end

    it "goes onto a graft of its own variety that was made on the day it was cut, or later" do
      bundle = make
      made = graft(limb(tree(here), "G"), variety_id: bundle.variety_id, grafted_on: bundle.cut_on - 1)
      use = -> { Vestry::Deeds::MoveSticks.use(bundle, made.refresh, 1, by: "Orla") }
      expect(refusal(&use)[:bundle].first).to include("was cut on", "after the graft")
      made.update(grafted_on: bundle.cut_on)
      expect(use.call.size).to eq 1
      made.update(variety_id: variety(here, "Evensong").id)
      expect(refusal(&use)[:bundle].first).to include("the graft is Evensong")
    end

    it "leaves one of two told when both take the last stick at once" do
      bundle = make(diameters: [9.0])
      told = Queue.new
      Array.new(2) do
        Thread.new do
          Vestry::Deeds::MoveSticks.send_off(Vestry::Records::Bundle[bundle.id], 1, "lent", to: "someone", on: today,
                                             by: "Orla")
          told << nil
        rescue Vestry::Deeds::Refused => e
          told << e.errors[:count].first
        end
      end.each(&:join)
      words = [told.pop, told.pop]
      expect(words.compact.size).to eq 1
      expect(words.compact.first).to include("has none left")
      expect(left(bundle)).to eq 0
    end

    it "measures what is left, in order" do
      bundle = make(diameters: nil, count: 3)
      Vestry::Deeds::MoveSticks.measure(bundle, [8.0, 9.5], by: "Orla")
      expect(bundle.sticks_dataset.order(:number).select_map(:diameter_mm).map { |each| each&.to_f })
        .to eq [8.0, 9.5, nil]
      expect(refusal { Vestry::Deeds::MoveSticks.measure(bundle, [8.0] * 4, by: "Orla") }[:diameters].first)
        .to include("3 sticks are left")
    end
  end

  describe "sticks on a graft" do
    let(:stock) { limb(tree(here)) }

    def log(bundle, **changed)
      values = { grafted_on: Date.new(2026, 2, 20), technique: "cleft", variety_id: kind.id, stub_mm: 60.0, sticks: 2,
                 grafter: "Orla", wrap: "stretch-tape", seal: "wax", cover: "wax-only", again: true }
      Vestry::Deeds::LogGraft.call(stock, values.merge(changed), by: "Orla", today: today, bundle: bundle)
    end

    it "come out of the bundle, each on one graft" do
      bundle = make
      made = log(bundle)
      expect([left(bundle), Vestry::Records::Stick.where(graft_id: made.id).count]).to eq [3, 2]
      again = log(bundle, client_key: key = SecureRandom.uuid)
      expect(log(bundle, client_key: key).id).to eq again.id
      expect(left(bundle)).to eq 1
      expect(refusal { log(bundle) }[:bundle].first).to include("only 1 left")
      expect(Vestry::Records::Graft.count).to eq 2
    end

    it "are those that its card names, else as thick as the one that was set, and those kept by hand before all" do
      bundle = make(diameters: [9.5, 9.5, 9.5, 8.0, 6.0, 6.5])
      tags = %w[P Q R S]
      tags.each_with_index do |tag, i|
        limb(tree(here, number: 40 + i), tag, girth_mm: 40, length_mm: 1200)
        Vestry::Deeds::DecideLimb.call(Vestry::Records::Limb.first(tag: tag),
                                       { role: "work", technique: "whip-and-tongue", cut: 200.0, variety: kind.id,
                                         practice: "single", season: 2026, against_reason: "for trial" },
                                       by: "Orla", season: 2026)
      end
      on = Date.new(2026, 4, 2)
      planned = ->(tag) { Vestry::Records::Limb.first(tag: tag).planned }
      matched = lambda do |tag|
        Vestry::Records::MatchBoard.new(here, 2026, on).places.find { |place| place.row.limb.tag == tag }
          .given.map { |each| each.stick.number }
      end
      log = lambda do |tag, **more|
        values = { grafted_on: on, technique: "whip-and-tongue", sticks: 1, variety_id: kind.id, stub_mm: 11,
                   cut_mm: 200, grafter: "Tam", against_reason: "trial", **more }
        made = Vestry::Deeds::LogGraft.call(planned[tag].limb, values, by: "Tam", today: on, bundle: bundle)
        made.set_sticks.map(&:number)
      end
      expect(matched["P"]).to eq [4]
      expect(log["P", scion_mm: 8.0]).to eq [4]
      expect(matched["Q"]).not_to eq [6]
      expect(log["Q", scion_mm: 6.4]).to eq [6]
      Vestry::Deeds::KeepBundle.lock(planned["R"], Vestry::Records::Stick.first(bundle_id: bundle.id, number: 5),
                                     by: "Orla")
      expect(log["S", scion_mm: 6.0]).to eq [1]
      expect(log["R", scion_mm: 9.5]).to eq [5]
    end

    it "are those that its card names, where no thickness was typed of it" do
      bundle = make(diameters: [9.5, 8.0])
      named = bundle.sticks.find { |stick| stick.number == 2 }
      made = graft(stock, variety_id: kind.id, sticks: 1, scion_mm: nil, grafted_on: Date.new(2026, 4, 2))
      used = Vestry::Deeds::MoveSticks.use(bundle, made, 1, by: "Orla", first: [], matched: [named])
      expect(used.map(&:number)).to eq [2]
    end

    it "are of its variety, and were cut before it" do
      other = variety(here, "Evensong")
      expect(refusal { log(make(variety: other.id)) }[:bundle].first).to include("Evensong")
      expect(refusal { log(make(cut_on: Date.new(2026, 2, 25))) }[:bundle].first).to include("after the graft")
      used = make
      log(used)
      expect(refusal { Vestry::Deeds::KeepBundle.date(used, Date.new(2026, 2, 21), by: "Orla",
                                                      today: today) }[:cut_on].first)
                                                        .to include("grafted on 20 February 2026")
      # On the day on which it was first used it can have been cut.
      Vestry::Deeds::KeepBundle.date(used, Date.new(2026, 2, 20), by: "Orla", today: today)
      expect(used.refresh.cut_on).to eq Date.new(2026, 2, 20)
      expect(Vestry::Records::Graft.count).to eq 1
    end
  end

  describe "a store" do
    let(:store) { Vestry::Deeds::KeepStore.open(here, "Fridge", by: "Orla") }

    def bring(text, unit: "celsius") = Vestry::Deeds::KeepStore.read_file(store, text, unit: unit, by: "Orla")

    it "is called otherwise, and asked by its thermometer's name, which no other's name is taken for" do
      Vestry::Deeds::KeepStore.open(here, "Cellar", by: "Orla")
      keep = ->(values, **more) { Vestry::Deeds::KeepStore.correct(store, values, by: "Orla", **more) }
      expect(keep[{ name: "Scion fridge", thermometer: "fridge-2" }].values)
        .to include(name: "Scion fridge", thermometer: "fridge-2", version: 2)
      expect(Vestry::Records::Store.with_thermometer.map(&:name)).to eq ["Scion fridge"]
      expect(refusal { keep[{ name: "Cellar" }] }).to eq(name: ["Cellar is a store already"])
      expect { keep[{ name: "Fridge" }, version: 1] }.to raise_error(Vestry::Deeds::Conflict)
    end

    it "reads a log in any order, tells its gaps, and takes the same again without doubling" do
      log = "at,celsius\n2026-02-03 06:00,1.5\n2026-02-01T00:00Z,1\n2026-02-01T03:00Z,\"2\"\n"
      expect(bring(log)).to include(read: 3, new: 3, longest_gap_hours: 51.0)
      expect(bring(log)).to include(new: 0)
      expect(store.readings(today).map { |each| each[:celsius] }).to eq [1.0, 2.0, 1.5]
    end

    it "turns Fahrenheit, by word or by column, and asks when the unit cannot be right" do
      bring("time,temperature\n2026-02-01 00:00,34.7\n", unit: "fahrenheit")
      bring("at,fahrenheit\n2026-02-02 00:00,34.7\n")
      expect(store.readings(today).map { |each| each[:celsius].round(6) }).to eq [1.5, 1.5]
      expect(refusal { bring("at,temperature\n2026-02-01 00:00,68\n") }[:file].first)
        .to include("line 2", "Fahrenheit?")
    end

    it "says line and column, and keeps nothing of a bad file" do
      expect(refusal { bring("at,celsius\n2026-02-01 00:00,1\nlast week,1\n") }[:file].first)
        .to include("line 3, column “at”", "last week")
      expect(refusal { bring("at,celsius\n2026-02-01 00:00,cold\n") }[:file].first)
        .to include("line 2, column “celsius”")
      expect(refusal { bring("day,warmth\n1,2\n") }[:file].first)
        .to include("Say which column holds temperature.", "It has day, warmth.")
      expect(refusal { bring("at,celsius\n") }[:file].first).to include("no lines")
      expect(store.readings(today)).to eq []
    end

    it "ages a bundle by what was measured where it lay, and only while it lay there" do
      cellar = Vestry::Deeds::KeepStore.open(here, "Cellar", by: "Orla")
      days = (Date.new(2026, 1, 10)..Date.new(2026, 2, 28))
      Vestry::Deeds::KeepStore.keep(store, days.map { |day| [Time.utc(day.year, day.month, day.day), 1.0] })
      Vestry::Deeds::KeepStore.keep(cellar, days.map { |day| [Time.utc(day.year, day.month, day.day), 11.0] })
      bundle = make(store: store.id)
      kept = -> { Vestry::Records::WoodStore.new(here, today).keep(Vestry::Records::Bundle[bundle.id]) }
      expect(kept.call.age[:equivalent_days]).to be_within(1e-6).of(43.0)
      Vestry::Deeds::KeepBundle.move(bundle, cellar.id, on: Date.new(2026, 2, 18), by: "Orla")
      expect(kept.call.age[:equivalent_days]).to be_within(1e-6).of(32.0 + 1.5 / Math.log(2.5) + 10 * 2.5)
    end

    it "asks to be looked at monthly, in a week where something is wrong, and says what was found" do
      bundle = make
      cellar = -> { Vestry::Records::WoodStore.new(here, today).keep(Vestry::Records::Bundle[bundle.id]) }
      expect(cellar.call.check_due).to eq Date.new(2026, 2, 15)
      Vestry::Deeds::KeepBundle.check(bundle, "swelling", on: today, note: "two of them", by: "Tam")
      expect(cellar.call).to have_attributes(check_due: today + 7)
      expect(cellar.call.advice.first[:code]).to eq "wood_swelling"
      expect(refusal { Vestry::Deeds::KeepBundle.check(bundle, "fine", on: today, note: nil, by: "Tam") })
        .to include(:found)
    end
  end


  it "types as many diameters as there are sticks, and no more" do
    bundle = make(diameters: nil, count: 3)
    Vestry::Deeds::MoveSticks.measure(bundle, [8.0, 9.0, 10.0], by: "Orla")
    expect(bundle.sticks_dataset.order(:number).select_map(:diameter_mm)).to eq [8, 9, 10]
    expect(refusal { Vestry::Deeds::MoveSticks.measure(bundle, [8.0] * 4, by: "Orla") })
      .to eq(diameters: ["4 are typed, and 3 sticks are left"])
  end

  it "tells of sticks that a graft takes again, and of none where none are left to take" do
    bundle = make
    made = graft(limb(tree(here)), variety_id: kind.id, grafted_on: Date.new(2026, 2, 1))
    Vestry::Deeds::MoveSticks.use(bundle, made, 2, by: "Orla")
    told = lambda do
      before = Vestry::DB[:history].max(:id)
      Vestry::Deeds::MoveSticks.take_again(made, by: "Orla")
      Vestry::DB[:history].where { id > before }.select_map(:after)
    end
    Vestry::Deeds::MoveSticks.give_back(made, by: "Orla")
    expect(told.call).to eq [{ "used" => 2, "graft" => made.id }]
    Vestry::Deeds::MoveSticks.give_back(made, by: "Orla")
    Vestry::Deeds::MoveSticks.send_off(bundle, 5, "discarded", to: "dry", on: today, by: "Orla")
    expect(told.call).to eq []
  end
end
