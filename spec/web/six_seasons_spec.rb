# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# Three trees from their survey until their grafts are limbs, with every page of theirs opened in each season.
RSpec.describe "Six seasons of three trees" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(school: "waxed-rind", latitude: 38.0, longitude: -1.0) }
  let(:orla) { person("Orla Finch", steward: here) }

  def on(day)
    @day = day
    allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
  end

  # A tree with two limbs by limb lines; A is planned and grafted, B is the nurse.
  def worked(species, kind, technique:, on_day:)
    standing = tree(here, species: species, height_mm: 3800)
    lines = Vestry::Deeds::LimbLines.new(standing, "A e girth 190 long 2400 from 1000 up 50\nB w girth 130 long 1500 " \
                                                   "from 800 up 40")
    stock, nurse = lines.keep(by: "Orla", today: on_day - 90, sure: true)
    Vestry::Deeds::DecideLimb.call(stock, { role: "work", technique: technique, cut: 700.0, practice: "pair",
                                            variety: kind.id }, by: "Orla", season: on_day.year)
    Vestry::Deeds::DecideLimb.call(nurse, { role: "nurse" }, by: "Orla", season: on_day.year)
    [standing, stock, set(stock, kind, technique, on_day)]
  end

  def set(stock, kind, technique, day)
    on day
    Vestry::Deeds::LogGraft.call(stock, { grafted_on: day, technique: technique, variety_id: kind.id, stub_mm: 46.0,
                                          cut_mm: 700, sticks: 2, grafter: "Orla Finch", wrap: "stretch-tape",
                                          seal: "wax", cover: "wax-only" }, by: "Orla", today: day)
  end

  def look(graft, day, **seen)
    on day
    Vestry::Deeds::RecordVisit.call(graft, { seen_on: day, **seen }, by: "Orla Finch", today: day)
  end

  def count(graft, year, above_mm:, open_mm:)
    on Date.new(year, 10, 12)
    Vestry::Deeds::RecordTally.call(graft, { season: year, tallied_on: @day, alive: true, above_mm: above_mm,
                                             open_a_mm: open_mm, open_b_mm: open_mm, sticks_alive: 1,
                                             growth_mm: 500.0 }, by: "Orla Finch", today: @day)
  end

  # What is due at a graft, and every page of its limb and tree, each of which opens.
  def due(graft)
    Vestry::Records::Agenda.new(here, @day).due.select { |item| item.of == graft }.map { |item| item.task[:rule] }
  end

  def pages(graft)
    limb, standing = graft.limb, graft.limb.tree
    paths = ["today", "survey/trees/#{standing.id}", "survey/trees/#{standing.id}?limb=#{limb.id}",
             "plan/trees/#{standing.id}", "plan/trees/#{standing.id}?limb=#{limb.id}", "plan/window", "slip", "wood",
             "tend", "tend/grafts/#{graft.id}", "tend/grafts/#{graft.id}/tidy", "tend/nurses", "graft/limbs/#{limb.id}",
             "tally/grafts/#{graft.id}", "tally/limbs/#{limb.id}", "tally/trees/#{standing.id}", "tally/took"]
    paths.each do |path|
      get "/o/#{here.slug}/#{path}"
      expect([path, @day, last_response.status]).to eq [path, @day, 200]
    end
  end

  def text(path)
    get "/o/#{here.slug}/#{path}"
    Nokogiri::HTML(last_response.body).text.squeeze(" \n")
  end

  before { enter orla }

  it "an apple whose limb breaks in a storm is grafted again below, and comes to carry itself" do
    amber = variety(here, "Amber")
    standing, stock, first = worked("apple", amber, technique: "rind", on_day: Date.new(2026, 4, 20))
    pages(first)
    look(first, Date.new(2026, 5, 20), buds: "leafing", callus: "full", verdict: "took")
    count(first, 2026, above_mm: 11, open_mm: 40)
    on Date.new(2027, 5, 10)
    expect(due(first)).to include("year-stock-shoots", "year-pests", "no-fruit", "year-ties")
    pages(first)
    on Date.new(2028, 2, 2)
    Vestry::Deeds::RecordLimbEvent.call(stock, { kind: "broken", happened_on: @day, left_mm: 520.0, note: "the storm" },
                                        by: "Tam", today: @day)
    expect([first.refresh.lost_cause, stock.refresh.length_mm.to_f]).to eq ["blown-out", 520.0]
    # Planned and lost: it is told of, and what to do is proposed at the limb.
    expect(text("survey/trees/#{standing.id}?limb=#{stock.id}")).to include("It broke; 520 mm is left")
    shares = Vestry::Records::CoreInputs.canopy(standing.refresh.limbs.reject(&:gone_on))[:shares]
    expect(shares.values.sum).to be_within(1e-9).of(1.0)
    expect(due(first)).to eq ["regraft-spring"]
    Vestry::Deeds::DecideLimb.call(stock.refresh, { role: "work", technique: "rind", cut: 400.0, practice: "pair",
                                                    variety: amber.id, against_reason: "what is left of it" },
                                   by: "Orla", season: 2028)
    expect(due(first)).to eq []
    second = set(stock, amber, "rind", Date.new(2028, 4, 18)).tap { |graft| graft.update(cut_mm: 400) }
    look(second, Date.new(2028, 5, 20), buds: "leafing", callus: "full", verdict: "took")
    [[2028, 12, 40], [2029, 22, 30], [2030, 31, 12], [2031, 35, 0]].each do |year, above, open|
      on Date.new(year, 6, 12)
      expect([year, due(second).empty?]).to eq [year, false]
      pages(second)
      count(second, year, above_mm: above, open_mm: open)
    end
    # 35 mm of a stub of 46: 0.58 of its section.
    on Date.new(2032, 6, 5)
    expect(due(second)).to eq []
    on Date.new(2032, 7, 20)
    expect(due(second)).to eq ["yearly-look"]
    pages(second)
    words = text("survey/trees/#{standing.id}?limb=#{stock.id}")
    told = ["Surveyed:", "Grafted with Amber", "It broke; 520 mm is left", "Grafted with Amber"]
    expect(told.map { |each| words.index(each) }.compact.size).to eq 4
    expect(text("tally/limbs/#{stock.id}")).to include("Amber")
  end

  it "a citrus goes by the calendar, is shaded for three weeks, and is followed as the others are" do
    navel = variety(here, "Goldstone", species: "citrus")
    standing, stock, made = worked("citrus", navel, technique: "bark", on_day: Date.new(2026, 5, 25))
    free = limb(standing, "C", fork_mm: 700)
    expect(text("plan/trees/#{standing.id}?limb=#{free.id}")).to include("no winter's sleep")
    expect(due(made)).to include("evergreen-shade")
    bark = Vestry::Records::BarkForecast.new(here, @day).of_trees([standing]).first
    expect(bark.basis).to eq "calendar"
    look(made, Date.new(2026, 6, 30), buds: "leafing", callus: "full", verdict: "took")
    expect(due(made)).to include("evergreen-light")
    [[2026, 9, 42], [2027, 19, 34], [2028, 27, 22], [2029, 31, 10], [2030, 34, 0]].each do |year, above, open|
      on Date.new(year, 7, 1)
      expect([year, due(made).empty?]).to eq [year, false]
      pages(made)
      count(made, year, above_mm: above, open_mm: open)
    end
    on Date.new(2031, 7, 20)
    expect(due(made)).to eq ["yearly-look"]
    expect(stock.refresh.gone_on).to be_nil
  end

  it "a pear on a serviceberry is told what becomes of it later, and is followed until it carries itself" do
    perry = variety(here, "Perry Lantern", species: "pear")
    standing, _, made = worked("serviceberry", perry, technique: "rind", on_day: Date.new(2026, 4, 12))
    expect(text("plan/trees/#{standing.id}/varieties")).to include("Outgrows the thin stock and leans")
    look(made, Date.new(2026, 5, 16), buds: "leafing", callus: "full", verdict: "took")
    [[2026, 10, 41], [2027, 20, 30], [2028, 27, 18], [2029, 33, 4]].each do |year, above, open|
      on Date.new(year, 6, 12)
      expect([year, due(made).empty?]).to eq [year, false]
      pages(made)
      count(made, year, above_mm: above, open_mm: open)
    end
    on Date.new(2030, 7, 20)
    expect(due(made)).to eq ["yearly-look"]
    on Date.new(2031, 7, 20)
    expect(due(made)).to eq ["yearly-look"]
    pages(made)
  end
end
