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
