# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# Where only evergreens stand, nobody is told to cut wood asleep, in winter.
RSpec.describe "The wood of evergreens" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  def said(here, page)
    get "/o/#{here.slug}/#{page}"
    Nokogiri::HTML(last_response.body).tap { |html| html.css("script, style").remove }
      .at_css("main").text.gsub(/[[:space:]]+/, " ")
  end

  def planned(here, species)
    stem = limb(tree(here, species: species), girth_mm: 170)
    Vestry::Deeds::DecideLimb.call(stem, { role: "work", technique: "rind", cut: 600.0, season: 2026,
                                           variety: variety(here, "Of #{species}", species: species).id,
                                           practice: "single", against_reason: "it stands so" },
                                   by: "Orla", season: 2026)
  end

  it "is cut on the day, and no window of winter is told" do
    here = orchard
    planned(here, "citrus")
    enter person("Orla Finch", steward: here)
    expect(said(here, "wood")).to include("The leafy wood of evergreens is cut on the day of grafting.")
    expect(said(here, "wood/list")).to include("evergreen, never asleep", "Sticks are cut")
    expect(%w[wood wood/list].map { |page| said(here, page) }.join).not_to match(/fully asleep|while the trees sleep/)
  end

  it "comes after what is cut asleep: in winter that is to be cut" do
    here = orchard
    planned(here, "citrus")
    winter = Date.new(2026, 1, 10)
    told = lambda do
      place = Vestry::Records::Orchard[here.id]
      board = Vestry::Records::TodayBoard.new(place, winter)
      [Vestry::Web::Headline.new(place, winter).wood(board.order, board.cellar),
       board.matters.find { |matter| matter.station == "wood" }.urgency]
    end
    expect(told.call).to match [/\AOf citrus wants \d sticks?: its leafy wood is cut on the day of grafting\.\z/, 5]
    planned(here, "pear")
    expect(told.call).to match [/\AOf pear still wants /, 3]
  end

  it "is taken as dead once it was kept longer than such wood keeps, and is no stock then" do
    here = orchard
    planned(here, "citrus")
    cut = Date.new(2026, 1, 10)
    bundle = Vestry::Deeds::MakeBundle.call(here, { variety: here.varieties_dataset.first.id, source: "a neighbour",
                                                    cut_on: cut, count: 4, length_mm: 180.0, ends: "sealed",
                                                    checked: Vestry::Deeds::MakeBundle::CHECKS.keys.map(&:to_s) },
                                            by: "Orla", today: cut)
    store = ->(on) { Vestry::Records::WoodStore.new(Vestry::Records::Orchard[here.id], on) }
    told = lambda do |on|
      kept = store[on].kept(season: 2026).first
      [kept.dead?, kept.due?(on), store[on].checks_due.any? { |day| day <= on }, store[on].for_stubs(season: 2026).size]
    end
    expect([cut + 75, cut + 76].map(&told)).to eq [[false, true, true, 1], [true, false, false, 0]]
    enter person("Orla Finch", steward: here)
    expect(said(here, "wood/bundles/#{bundle.id}"))
      .to include("Leafy wood keeps 75 days at most, and this was cut 128 days ago: take it as dead")
    # What sleeps keeps as its store's thermometer says.
    here.varieties_dataset.update(species: "apple")
    expect(told[cut + 76]).to eq [false, true, true, 1]
  end

  it "is short on no day's sheet: it is cut on the day" do
    here = orchard(latitude: 36.0)
    planned(here, "citrus")
    planned(here, "fig")
    Vestry::DB[:weather_days].multi_insert((0..9).map { |i| { orchard_id: here.id, day: World::TODAY + i, min_c: 16.0,
                                                              max_c: 24.0, forecast: true } })
    enter person("Orla Finch", steward: here)
    cards = Vestry::Records::DaySheet.new(Vestry::Records::Orchard[here.id], World::TODAY, World::TODAY).cards
    expect(cards.to_h { |card| [card.tree.species, card.short] }).to eq("citrus" => 0, "fig" => 1)
    expect(said(here, "graft/sheet")).to include("1 stub without all its sticks", "Woodleafy wood, cut on the day",
                                                 "short of 1")
  end

  it "leaves the window of winter to what sleeps beside it" do
    here = orchard
    planned(here, "citrus")
    planned(here, "apple")
    enter person("Orla Finch", steward: here)
    expect(said(here, "wood")).to include("while the trees sleep")
    expect(said(here, "wood/list")).to include("fully asleep", "evergreen, never asleep")
  end
end
