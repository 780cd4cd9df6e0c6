# frozen_string_literal: true

# All that was planned for a season is grafted: no station asks for what is done.
RSpec.describe Vestry::Web::Headline, "where a season's work is done", :database do
  let(:here) { orchard }
  let(:standing) { tree(here) }
  let(:today) { Date.new(2026, 5, 20) }
  let(:kind) { variety(here) }

  def decide(tag, season)
    Vestry::Deeds::DecideLimb.call(limb(standing, tag, bearing_deg: tag.ord * 40 % 360),
                                   { role: "work", technique: "rind", cut: 700.0, practice: "pair", variety: kind.id,
                                     season: season }, by: "Orla", season: 2026)
  end

  def said
    here = Vestry::Records::Orchard[self.here.id]
    line, board = described_class.new(here, today), Vestry::Records::TodayBoard.new(here, today)
    { plan: line.plan, wood: line.wood(board.order, board.cellar), graft: line.graft, cuts: line.cuts(2026),
      slip: line.slip(board.windows.spring, board.revisits, board.board),
      crew: line.crew(Vestry::Records::CrewPlan.new(here, today)), stations: board.matters.map(&:station) }
  end

  it "asks for a plan, for wood and for the saw while there is none" do
    standing
    expect(said).to include(
      plan: "A1 has no limbs surveyed yet: measure them, then say what becomes of each.",
      wood: "No stub is planned for 2026 with a variety yet: plan first, and the wood is counted here.",
      cuts: "Nothing is to be sawn for 2026 yet: give limbs a role and a place to cut.",
      slip: "No stub waits to be grafted.", crew: "No stub waits to be grafted."
    )
  end

  it "says what was done, and what waits for a later season" do
    decide("A", 2026)
    decide("B", 2028)
    decide("C", 2027)
    decide("D", 2027)
    graft(Vestry::Records::Limb.first(tag: "A"), grafted_on: Date.new(2026, 5, 2), cut_mm: 700)
    expect(said).to eq(
      plan: "No limb is left for 2026; 2 wait for 2027.", wood: "No stub of 2026 wants wood any more.",
      graft: "No stub is left to be grafted in 2026.", cuts: "All that was to be sawn for 2026 is done.",
      slip: "No stub waits to be grafted.", crew: "No stub waits to be grafted.", stations: []
    )
  end

  it "asks for no more plans where every tree has its own, and one that gives its wood is not asked to be surveyed" do
    decide("A", 2026)
    graft(Vestry::Records::Limb.first(tag: "A"), grafted_on: Date.new(2026, 5, 2), cut_mm: 700)
    winter = Date.new(2027, 1, 20)
    told = lambda do
      here = Vestry::Records::Orchard[self.here.id]
      line, board = described_class.new(here, winter), Vestry::Records::TodayBoard.new(here, winter)
      [line.plan, line.graft, line.cuts(2027), line.wood(board.order, board.cellar), line.survey]
    end
    done = ["No limb waits to be worked in 2027: every tree has its plan.",
            "No stub waits to be grafted in 2027: every tree has its plan.", "Nothing is to be sawn for 2027.",
            "No stub of 2027 wants wood."]
    expect(told.call).to eq [*done, "The one tree here has a plan; the year's work is at Tend."]
    mother = tree(here, row: "M", variety_id: kind.id)
    expect(told.call).to eq [
      "No limb waits to be worked in 2027: choose a tree and mark its limbs.",
      "No stub is ready to be grafted in 2027: plan limbs first, each with its cut, method and variety.",
      "Nothing is to be sawn for 2027 yet: give limbs a role and a place to cut.",
      "No stub is planned for 2027 with a variety yet: plan first, and the wood is counted here.",
      "#{mother.label} has no limbs surveyed yet; 2 trees stand here."
    ]
    Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, number: 1, ends: "sealed",
                                   tree_id: mother.id, cut_on: Date.new(2026, 1, 10), length_mm: 200)
    expect(told.call).to eq [*done, "The one tree to be worked has a plan; the year's work is at Tend."]
    limb(mother, "A")
    expect(told.call.last).to eq "#{mother.label} has no plan yet: choose a tree and read its limbs."
  end

  it "says of the saw that what was not grafted in its time is moved first" do
    decide("A", 2026)
    line = described_class.new(Vestry::Records::Orchard[here.id], late = Date.new(2026, 8, 1))
    expect([line.cuts(2027), line.plan]).to eq [
      "Nothing is to be sawn for 2027 yet: move what was not grafted in its time.",
      "1 limb was not grafted by its last sensible day: move it to 2027."
    ]
    expect(late).to be > Vestry::Records::Orchard[here.id].last_days(late).of_kind("apple")
  end

  it "asks a tree to be tested again that did not lift when it was" do
    decide("A", 2026)
    opened = Date.new(2026, 5, 16)
    Vestry::Deeds::SeeStage.call(standing, stage: nil, slipping: false, on: opened, today: opened, by: "Orla")
    expect(said[:slip]).to eq "1 tree should slip by now and was not seen to: test the bark of A1."
    # On a day on which it need not be, and while another kind is to slip later.
    Vestry::Deeds::SeeStage.call(standing, stage: nil, slipping: false, on: today, today: today, by: "Orla")
    expect(said[:slip]).to eq "Test the bark of A1 from 24 May on: it was not seen to slip yet."
    late = tree(here, species: "pecan")
    here.update(latitude: 61.0)
    expect(Vestry::Records::Orchard[here.id].bark_forecast(today).of_species("pecan")[:p50])
      .to be > Date.new(2026, 5, 25)
    expect(said[:slip]).to eq "Test the bark of A1 from 24 May on: it was not seen to slip yet."
    late.update(hidden_at: Time.now)
    Vestry::Deeds::SeeStage.call(standing, stage: nil, slipping: true, on: today, today: today, by: "Orla")
    expect(said[:slip]).to eq "No forecast is known here: go by the sky and the bark, or bring in a weather file."
  end

  context "when nobody has time for a fortnight" do
    let(:closes) { Vestry::Records::Orchard[here.id].last_days(Date.new(2026, 6, 1)).of_kind("apple") }

    before do
      decide("A", 2026)
      (0..13).each { |i| Vestry::Deeds::SettleCrew.day(here, today + i, hours: 0.0, grafters: 2.0, by: "Orla") }
    end

    context "with more than a week after it" do
      let(:today) { Vestry::Records::Orchard[here.id].last_days(Date.new(2026, 6, 1)).of_kind("apple") - 21 }

      it "tells the crew how long there is time" do
        told = ->(stubs) { "No day of these 14 suits #{stubs}: there is time until #{closes.day} June." }
        expect(said[:crew]).to eq told["the stub that waits"]
        decide("B", 2026)
        expect(said[:crew]).to eq told["the 2 stubs that wait"]
      end
    end

    context "with a week after it" do
      let(:today) { Vestry::Records::Orchard[here.id].last_days(Date.new(2026, 6, 1)).of_kind("apple") - 20 }

      it("says that it will not fit") { expect(said[:crew]).to eq "1 stub will not fit in the days planned." }
    end
  end
end
