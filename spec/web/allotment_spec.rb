# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "The orchard's allotment" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let(:amber) { variety(here, "Amber") }
  let(:today) { World::TODAY }

  def planned(tag, stock, season, mm: 160)
    limb(stock, tag, girth_mm: mm, bearing_deg: tag.ord * 50 % 360).tap do |each|
      Vestry::Deeds::DecideLimb.call(each, { role: season == 2026 ? "work" : "later", technique: "rind", cut: 600.0,
                                             practice: "single", variety: amber.id, season: season },
                                     by: "Orla", season: 2026)
    end
  end

  before do
    enter person(steward: here)
    stock = tree(here)
    # All of one head in one season, with three sticks for four limbs.
    %w[A B C].each { |tag| planned(tag, stock, 2026) }
    planned("D", stock, 2027)
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: amber.id, source: "row S",
                                            cut_on: Date.new(2026, 1, 20))
    Vestry::Records::Stick.add(bundle, [8.0] * 3)
  end

  def press(path, **fields)
    get "/o/#{here.slug}/plan/allot"
    post "/o/#{here.slug}/plan/#{path}", fields.merge(authenticity_token: token)
    follow_redirect! if last_response.redirect?
    Nokogiri::HTML(last_response.body).text.squeeze(" \n")
  end

  def asked(**wish)
    press("allotments", seasons: "3", **wish)
    run = Vestry::Records::AllotmentRun.order(:id).last
    Vestry::Deeds::AllotOrchard.write(run, today: today)
    run.refresh
  end

  def seasons = Vestry::Records::Limb.order(:tag).map { |limb| limb.planned.season }

  it "keeps caps and wood, changes nothing until it is accepted, and is taken back in one press" do
    run = asked
    expect([run.state, seasons]).to eq ["done", [2026, 2026, 2026, 2027]]
    expect(run.answer["value"]).to be <= run.answer["bound"]
    by_season = run.answer["chosen"].group_by { |each| each["season"] }.transform_values(&:size)
    # Two quarters of a head at most in one season: the cap of the rulebook.
    expect(by_season.values.max).to eq 2
    get "/o/#{here.slug}/plan/allotments/#{run.id}"
    expect(last_response.body).to include("Accept all", "heads of living scaffold", "more than the limits let")
    words = press("allotments/#{run.id}/accept")
    expect(words).to match(/\d limbs? moved to the seasons that were chosen/)
    expect(seasons.tally.values.max).to eq 2
    expect(press("allotments/#{run.id}/accept")).to include("0 limbs moved")
    expect(press("allotments/#{run.id}/back")).to include("Taken back.")
    expect(seasons).to eq [2026, 2026, 2026, 2027]
  end

  it "is accepted limb by limb and by tree, and taken back whole" do
    run = asked(hours: "0.5")
    moves = Vestry::Deeds::AllotOrchard.moves(run)
    expect(moves.size).to be > 1
    limb, was, to = moves.first
    expect(press("allotments/#{run.id}/accept", limb: limb.id)).to include("1 limb moved", "would move", "Take it back")
    expect([was == to, limb.refresh.planned.season]).to eq [false, to]
    expect(press("allotments/#{run.id}/accept", tree: limb.tree_id)).to include("#{moves.size - 1} limb")
    expect(press("allotments/#{run.id}/accept", limb: "999999")).to include("not")
    press("allotments/#{run.id}/back")
    expect(seasons).to eq [2026, 2026, 2026, 2027]
  end

  it "leaves what is settled to a day in its season, even where that passes a limit" do
    rows = Vestry::Records::PlanLimb.where(season: 2026).all
    rows.each { |row| Vestry::Records::CrewPlan.fix(row, today + 1, by: "Orla") }
    run = asked(hours: "0.1")
    expect(run.state).to eq "done"
    expect(run.answer["chosen"].select { |each| each["season"].zero? }.map { |each| each["limb"] })
      .to match_array rows.map(&:limb_id)
    # What was moved since is settled no longer.
    rows[1].update(season: 2027)
    expect(Vestry::Records::CrewPlan.settled(here, today)).to eq [rows[0].id, rows[2].id].to_set
    rows[1].update(season: 2026)
    # Wood is taken to be had for what is settled, whether or not any lies in store.
    Vestry::DB[:sticks].delete
    asking = Vestry::Records::AllotmentInput.new(Vestry::Records::Orchard[here.id], today, "seasons" => 1, "more" => {})
    expect(asking.question[:wood].map { |each| each[:sticks] }).to eq [3]
    Vestry::Records::CrewPlan.begin(here, today, [Struct.new(:row).new(rows[0])])
    expect(Vestry::Records::CrewPlan.settled(here, today).size).to eq 3
    expect(Vestry::Records::CrewPlan.settled(here, today + 2)).to be_empty
  end

  it "leaves what was moved since where it is, when it is taken back" do
    run = asked
    press("allotments/#{run.id}/accept")
    moved = Vestry::Records::AllotmentRun[run.id].accepted.to_a.first
    limb = Vestry::Records::Limb[moved["limb"]]
    Vestry::Deeds::MoveLimb.call(limb, 2030, by: "Orla", first: 2026)
    expect(press("allotments/#{run.id}/back")).to include("Taken back. #{limb.label} stay")
    expect(limb.refresh.planned.season).to eq 2030
  end

  it "is worth no less with more sticks or hours, and says what binds" do
    few = asked(hours: "0.5")
    expect(few.answer["binding"].map { |each| each["what"] }).to include "minutes"
    get "/o/#{here.slug}/plan/allotments/#{few.id}"
    expect(last_response.body).to include("A grafter-hour more in")
    expect(asked.answer["value"]).to be >= few.answer["value"]
    expect(asked(variety: amber.id, sticks: "9").answer["value"]).to be >= few.answer["value"]
  end

  it "takes for later seasons what is promised and what young grafts give, and any of what stands here" do
    wood = lambda do |more = {}|
      Vestry::Records::AllotmentInput.new(Vestry::Records::Orchard[here.id], today, { "seasons" => 2, "more" => more })
        .question[:wood].to_h { |each| [each[:season], each[:sticks]] }
    end
    # Three in store now; of three stubs of this season some live, and give two sticks each.
    expect([wood.call[0], wood.call({ amber.id.to_s => 9 })[0]]).to eq [3, 12]
    expect(wood.call[1]).to be_between(4, 6)
    before = wood.call[1]
    Vestry::Records::WoodPromise.create(orchard_id: here.id, variety_id: amber.id, season: 2027, sticks: 7)
    expect(wood.call[1]).to eq before + 7
    old = limb(tree(here, variety_id: amber.id), "A", girth_mm: 300)
    expect(wood.call.keys).to eq [0]
    old.update(hidden_at: Time.now.utc)
    expect(wood.call.keys).to eq [0, 1]
    old.update(hidden_at: nil)
    over = graft(old, variety_id: variety(here, "Evensong").id)
    expect(wood.call.keys).to eq [0, 1]
    over.update(hidden_at: Time.now.utc)
    expect(wood.call.keys).to eq [0]
    Vestry::DB[:sticks].delete
    Vestry::Records::WoodPromise.dataset.delete
    expect(wood.call[0]).to eq 0
  end

  it "is over where its reckoning breaks, and says so" do
    run = Vestry::Records::AllotmentRun.asked(here, { "seasons" => 2, "more" => {} }, by: "Orla", client_key: nil)
    allow(Vestry::Core::Plan::Allotment).to receive(:solved).and_raise(NoMethodError, "undefined")
    expect { Vestry::Deeds::AllotOrchard.write(run, today: today) }.to raise_error(NoMethodError)
    get "/o/#{here.slug}/plan/allotments/#{run.id}"
    expect(last_response.body).to include("It broke off", "log says where")
  end

  it "is stopped before it is reckoned, and then comes to nothing" do
    last = Vestry::Records::AllotmentRun.asked(here, { "seasons" => 2, "more" => {} }, by: "Orla", client_key: nil)
    get "/o/#{here.slug}/plan/allotments/#{last.id}/progress"
    expect(JSON.parse(last_response.body)).to include("done" => 0, "all" => 2, "over" => false)
    get "/o/#{here.slug}/plan/allotments/#{last.id}"
    expect(Nokogiri::HTML(last_response.body).at_css("[data-progress] .hint").text).to start_with "0 of 2."
    expect(press("allotments/#{last.id}/cancel")).to include("It was stopped.")
    Vestry::Deeds::AllotOrchard.write(last.refresh, today: today)
    expect([last.refresh.state, last.answer]).to eq ["cancelled", nil]
    # Stopped while it is reckoned: what it came to is not kept.
    last.update(state: "running")
    Vestry::Deeds::AllotOrchard.cancel(last)
    last.answered("value" => 1)
    expect([last.refresh.state, last.answer]).to eq ["cancelled", nil]
    expect(press("allotments/#{last.id}/cancel")).not_to include("It was stopped.")
  end

  it "is worth no more where springs come late, which leaves fewer of the hours that are said" do
    usual = asked(hours: "1.5")
    late = asked(hours: "1.5", late: "1")
    expect(late.answer["late_share"]).to be_between(0.3, 0.99)
    expect(late.answer["value"]).to be <= usual.answer["value"]
    get "/o/#{here.slug}/plan/allotments/#{late.id}"
    expect(last_response.body).to include("Every spring comes late")
    expect(press("allotments", seasons: "2", late: "1")).to include("say how many: a late spring leaves fewer")
  end

  it "names what cannot be asked, and is nobody else's" do
    expect(press("allotments", seasons: "9", hours: "-2", variety: amber.id)).to include("say how many more")
    expect([last_response.status, Vestry::Records::AllotmentRun.count]).to eq [422, 0]
    begun = %w[0 1 4 5].map do |seasons|
      press("allotments", seasons: seasons)
      [last_response.status, Vestry::Records::AllotmentRun.count]
    end
    expect(begun).to eq [[422, 0], [200, 1], [200, 2], [422, 2]]
    run = asked
    other = orchard(name: "Other Hill")
    clear_cookies
    enter person("Other Steward", steward: other)
    get "/o/#{other.slug}/plan/allotments/#{run.id}"
    expect(last_response.status).to eq 404
  end
end
