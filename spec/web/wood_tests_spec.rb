# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "Testing stored wood" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let!(:bundle) do
    Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: variety(here).id, source: "row S",
                                   cut_on: Date.new(2026, 1, 20)).tap { |each| Vestry::Records::Stick.add(each, [8.0]) }
  end

  before { enter person(grafter: here) }

  def check(**fields)
    get "/o/#{here.slug}/wood/bundles/#{bundle.id}"
    post "/o/#{here.slug}/wood/bundles/#{bundle.id}/check", fields.merge(authenticity_token: token)
    get "/o/#{here.slug}/wood/bundles/#{bundle.id}" if last_response.redirect?
    Nokogiri::HTML(last_response.body).text.squeeze(" \n")
  end

  def checks = Vestry::DB[:bundle_checks].order(:id).select_map(%i[found cut forced forced_moved weight_g])

  it "keeps a cut, forced sticks and a weight, with or without a look, and says what they mean" do
    check(weight: "500")
    words = check(found: "sound", cut: "green", forced: "3", forced_moved: "2", weight: "455")
    expect(checks).to eq [["tested", nil, nil, nil, 500], ["sound", "green", 3, 2, 455]]
    expect(words).to include("2 of 3 forced sticks moved", "some 60 % may live",
                             "It lost 9 % of its weight: use it now", "green and moist",
                             "sound, cut: green, 2 of 3 forced moved, 455 g")
  end

  it "tells of a bundle first how it looked, then its tests, then its age; and first that it is dead" do
    advice = lambda do |found, **tests|
      Vestry::Deeds::KeepBundle.check(bundle, found, tests: tests, on: World::TODAY, by: "Orla", note: nil)
      Vestry::Records::WoodStore.new(here, World::TODAY).keep(bundle.reload).advice.map { |each| each[:code] }
    end
    told = advice["mould", cut: "dull"]
    expect([told.first, told.last, told.size]).to match ["wood_mould", "wood_unmeasured", be >= 3]
    dead = advice["shrivelled", forced: 3, forced_moved: 0]
    expect([dead.first, dead.include?("wood_shrivelled")]).to eq ["wood_forced_none", true]
  end

  it "says nothing of water where sticks were taken between two weighings, and keeps what was found for a part" do
    Vestry::Records::Stick.add(bundle, [9.0, 9.0, 9.0])
    check(weight: "500")
    check(found: "mould")
    part = Vestry::Deeds::MoveSticks.split(bundle.reload, 2, by: "Orla")
    expect(check(weight: "240")).not_to include("of its weight")
    expect(check(weight: "200")).to include("It lost 17 % of its weight")
    expect(Vestry::DB[:bundle_checks].where(bundle_id: part.id).select_map(%i[found weight_g weighed_sticks]))
      .to eq [["mould", nil, nil]]
    expect(Vestry::DB[:bundle_checks].where(bundle_id: bundle.id).order(:id).select_map(:weighed_sticks))
      .to eq [4, nil, 2, 2]
  end

  it "takes a weight in ounces, and says it so where the orchard has inches" do
    here.update(units: "imperial")
    expect(check(weight: "16 oz")).to include("16 oz, by")
    expect(check(weight: "455 g")).to include("It lost 0 % of its weight", "16 oz, by")
    expect(check(weight: "16")).to include("16 oz, by")
    expect(Vestry::DB[:bundle_checks].order(:id).select_map(:weight_g).map(&:to_f)).to eq [453.6, 455.0, 453.6]
    expect(check(weight: "-4")).to include("say its weight in oz, or such as 340 g, from 1 to 100000 g")
  end

  it "names what it cannot read, and keeps nothing of it" do
    expect(check(forced: "3")).to include("say how many were forced, and how many of them moved")
    expect(check(forced: "3", forced_moved: "4")).to include("how many of them moved")
    expect(check(forced: "many", forced_moved: "1")).to include("say how many were forced, from 1 to 20")
    expect(check(weight: "-4")).to include("say its weight in g, or such as 12 oz, from 1 to 100000 g")
    expect(check(cut: "blue")).to include("choose what the shaving shows")
    expect(check).to include("say what you find: sound, mould")
    expect(checks).to eq []
  end

  it "says that a bundle is moved, and puts it there" do
    cellar = Vestry::Deeds::KeepStore.open(here, "Cellar", by: "Orla")
    expect(send_to("/o/#{here.slug}/wood/bundles/#{bundle.id}/move", store: cellar.id.to_s)).to eq 302
    follow_redirect!
    expect(last_response.body).to include "#{bundle.code} is moved."
    expect(Vestry::DB[:bundle_stays].where(bundle_id: bundle.id, store_id: cellar.id).count).to eq 1
  end

  # What is asked of wood, by its own page, the shelf, today's page and the year band.
  def store(day = World::TODAY) = Vestry::Records::WoodStore.new(Vestry::Records::Orchard[here.id], day)
  def kept(day = World::TODAY) = store(day).kept(season: 2026).first
  def said(day = World::TODAY) = Vestry::Web::Headline.new(here, day).bundle(kept(day))

  it "looks again in a week at what was found wrong, and says why" do
    found = World::TODAY - 8
    look = ->(what, on) { Vestry::Deeds::KeepBundle.check(bundle.reload, what, on: on, note: nil, by: "Orla") }
    look["shrivelled", found]
    expect([kept.check_due, store.checks_due]).to eq [found + 7, [found + 7]]
    expect(said).to end_with "look whether it mended, for something was found wrong on 10 May."
    look["sound", found + 1]
    expect([kept.check_due, store.checks_due, kept.due?(World::TODAY)]).to eq [found + 31, [found + 31], false]
  end

  it "says how long wood keeps of which no thermometer tells, and that it is spent after that" do
    cut = bundle.cut_on
    life = here.rulebook.value("species.apple.wood_life").to_i
    say = ->(on) { Vestry::Web::Headline.new(here, on).say(kept(on).advice.last) }
    last = cut + life
    expect(say[last]).to eq "No thermometer tells how it was kept; just above freezing it keeps until " \
                            "#{last.strftime('%-d %B')}."
    expect([said(last), said(last + 1)])
      .to match [/look at it now, for nobody has yet/,
                 /left, and its life is spent: throw it out, or test every stick\.\z/]
    expect(say[last + 1]).to eq "It was cut #{life + 1} days ago, and even just above freezing such wood keeps " \
                                "#{life}: cut into every stick before it is set."
  end

  it "asks for every bundle that is due, the oldest by name" do
    due = ->(on) { store(on).kept(season: 2026).select { |each| each.due?(on) }.map(&:bundle) }
    other = Vestry::Deeds::MakeBundle.call(here, { variety: bundle.variety_id, source: "a neighbour", count: 2,
                                                   cut_on: bundle.cut_on + 1, length_mm: 180.0, ends: "sealed",
                                                   checked: Vestry::Deeds::MakeBundle::CHECKS.keys.map(&:to_s) },
                                           by: "Orla", today: World::TODAY)
    expect(due[World::TODAY].map(&:id)).to eq [bundle.id, other.id]
    told = lambda do
      order = Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2026, World::TODAY)
      Vestry::Web::Headline.new(here, World::TODAY).wood(order, store).to_s
    end
    expect(told.call).to eq "Wood 1 (Skylark Russet) and 1 more bundle want looking at: mould, shrivel, swelling."
    Vestry::Deeds::KeepBundle.check(bundle, "sound", on: World::TODAY, note: nil, by: "Orla")
    expect(told.call).to start_with "Wood 2 (Skylark Russet) wants looking at"
  end

  it "takes wood of which nothing forced moved as dead: it is no stock, serves no stub and is not looked at" do
    stub = limb(tree(here))
    Vestry::Deeds::DecideLimb.call(stub, { role: "work", technique: "rind", cut: 700.0, practice: "single",
                                           variety: bundle.variety_id, season: 2026 }, by: "Orla", season: 2026)
    stock = lambda do
      [Vestry::Records::WoodOrder.new(Vestry::Records::Orchard[here.id], 2026, World::TODAY).lines.sum(&:have),
       Vestry::Records::MatchBoard.new(Vestry::Records::Orchard[here.id], 2026, World::TODAY).short]
    end
    force = lambda do |moved, on|
      Vestry::Deeds::KeepBundle.check(bundle.reload, nil, on: on, note: nil, by: "Orla",
                                                          tests: { forced: 3, forced_moved: moved })
    end
    expect(stock.call).to eq [1, 0]
    force[0, World::TODAY - 60]
    expect(stock.call).to eq [0, 1]
    expect([kept.due?(World::TODAY), store.checks_due]).to eq [false, []]
    expect(said).to eq "Wood 1: 1 stick of Skylark Russet left, and none that was forced moved: throw it out, unless " \
                       "another lot moves."
    force[1, World::TODAY - 40]
    expect([stock.call, kept.due?(World::TODAY)]).to eq [[1, 0], true]
  end

  it "counts as left over what no graft wants any more, and names the stores in which nothing lies" do
    cellar, shed = %w[Cellar Shed].map { |name| Vestry::Deeds::KeepStore.open(here, name, by: "Orla") }
    Vestry::Deeds::KeepBundle.move(bundle, cellar.id, on: World::TODAY - 90, by: "Orla")
    closes = here.bark_forecast(World::TODAY).closes_last || tree(here).then do
      Vestry::Records::Orchard[here.id].bark_forecast(World::TODAY).closes_last
    end
    told = [closes, closes + 1].map do |day|
      all = store(day)
      [all.left_over.map(&:code), all.checks_due.any?, all.keep(bundle.reload).due?(day), all.empty_stores.map(&:name)]
    end
    expect(told).to eq [[[], true, true, ["Shed"]], [["Wood 1"], false, false, ["Shed"]]]
    expect(Vestry::Web::Headline.new(here, closes + 1).bundle(store(closes + 1).keep(bundle)))
      .to eq "Wood 1: 1 stick of Skylark Russet left over, and no graft wants it any more: throw it out."
    # What is cut for late summer's buds is not.
    bundle.update(cut_on: closes + 1)
    expect(store(closes + 1).left_over).to eq []
    bundle.update(cut_on: Date.new(2025, 1, 20))
    get "/o/#{here.slug}/wood"
    hints = Nokogiri::HTML(last_response.body).css("p.hint").map { |each| each.text.split.join(" ") }
    expect(hints).to include("Left over, to be thrown out: Wood 1 (Skylark Russet, 1)", "Empty: Shed",
                             "With nothing for 2026: Cellar")
    bundle.update(hidden_at: Time.now)
    expect(store.empty_stores.map(&:id)).to eq [cellar.id, shed.id]
  end
end
