# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# What is said of plans as they are made, and of stubs as their time comes.
RSpec.describe "Words of planning" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  def planned(here, species)
    stock = tree(here, species: species)
    kind = here.varieties_dataset.first(species: species) || variety(here, "Trial #{species}", species: species)
    Vestry::Deeds::DecideLimb.call(limb(stock), { role: "work", technique: "rind", cut: 800.0, practice: "pair",
                                                  variety: kind.id, against_reason: "so", season: 2026 },
                                   by: "Orla", season: 2026)
  end

  def head(path)
    get path
    Nokogiri::HTML(last_response.body).at_css("h1").text.split.join(" ")
  end

  it "tell of a limb what its role asks for: nothing of a graft where none is to be made" do
    here = orchard
    enter person("Orla Finch", steward: here)
    planned(here, "apple")
    branch = Vestry::Records::Limb.first
    page = lambda do |role|
      Vestry::Deeds::DecideLimb.call(branch.reload, { role: role }, by: "Orla", season: 2026)
      get "/o/#{here.slug}/plan/trees/#{branch.tree_id}?limb=#{branch.id}"
      Nokogiri::HTML(last_response.body).at_css(".docket").text.split.join(" ")
    end
    expect(page["work"]).to match(/Trial apple, 2026 .*Cut at ?800 mm from the fork.*Log the graft/)
    back = (branch.length_mm / 2).round
    { "nurse" => [/Carries ?\d+ % of the head/], "lift" => [/Comes off ?at its fork/, /Removes ?\d+ %/],
      "renew" => [/Headed back ?to #{Vestry::Core::Measure.say(back)} from its fork/, /Removes ?\d+ %/] }
      .each do |role, words|
      docket = page[role]
      expect(docket).to(satisfy { |text| words.all? { |each| text.match?(each) } })
      expect(docket).not_to match(/Cut at|Trial apple|Log the graft|Sticks stub takes|Becomes/)
    end
    get "/o/#{here.slug}/plan/cuts"
    row = Nokogiri::HTML(last_response.body).at_css("tbody tr").text.split.join(" ")
    expect(row).to include "head it back to #{Vestry::Core::Measure.say(back)}: it throws wood for the grafts of 2027"
    told = ->(day) { Vestry::Web::Headline.new(here, day).limb(Vestry::Records::Limb[branch.id])[/(is|was) headed.*/] }
    # One that is not sawn in its season is sawn in the next.
    expect([World::TODAY, Date.new(2027, 2, 10)].map(&told))
      .to eq([2027, 2028].map { |year| "is headed back, to throw wood for the grafts of #{year}." })
    up = Vestry::Records::Limb.first.height_at(back).round(-1) / 1000.0
    expect(row).to include format("%.2f m", up)
    drawn = Vestry::Drawings::DrawnLimb.all(Vestry::Records::Tree[branch.tree_id], planning: 2026).first
    expect(drawn.to_cut_mm).to eq branch.length_mm / 2
    Vestry::Deeds::RecordLimbEvent.call(branch, { kind: "headed", happened_on: Date.new(2026, 2, 3),
                                                  left_mm: back.to_f }, by: "Orla", today: World::TODAY)
    expect(page["renew"]).to match(/Sawn ?on 3 Feb.*Carries/)
    expect(Vestry::Web::Headline.new(here, World::TODAY).limb(branch.reload)).to include "was headed back on 3 Feb"
    expect([World::TODAY, Date.new(2027, 5, 10), Date.new(2028, 2, 10)].map { |day|
 told[day][/(: it throws|, and threw).*/] })
      .to eq [": it throws wood for the grafts of 2027.", ": it throws wood for the grafts of 2027.",
              ", and threw wood for the grafts of 2027."]
    drawn = Vestry::Drawings::DrawnLimb.all(Vestry::Records::Tree[branch.tree_id], planning: 2026)
    expect(drawn.map { |each| [each.state, each.to_cut_mm] }).to eq [["renew", nil]]
    plan = Vestry::Records::TreePlan.new(Vestry::Records::Tree[branch.tree_id], World::TODAY)
    expect([plan.renewed, plan.seasons_touched]).to eq [[], []]
    listed = -> { Vestry::Records::PlanQueries.cut_list(here, 2026).select_map(Sequel[:plan_limbs][:id]) }
    row = branch.planned
    expect([row.sawn_on, listed.call]).to eq [Date.new(2026, 2, 3), []]
    # What was written down before that was decided is not what it asks for.
    Vestry::DB[:limb_events].update(created_at: Time.now - 86_400)
    expect([Vestry::Records::PlanLimb[row.id].sawn_on, listed.call]).to eq [nil, [row.id]]
  end

  it "tell of the stub that can be grafted, of those whose bark is to be tested first, and of the others to come" do
    here = orchard(latitude: 64.5)
    enter person("Orla Finch", steward: here)
    trees = %w[peach apple].map { |species| planned(here, species).limb.tree }
    told = -> { head("/o/#{here.slug}/graft")[/; (.*)\.\z/, 1].sub(/\d+ May/, "a day") }
    lifts = lambda do |tree|
      Vestry::Deeds::SeeStage.call(tree, stage: nil, slipping: true, on: World::TODAY, today: World::TODAY, by: "Orla")
    end
    expect(told.call).to eq "one can be grafted once its bark is seen to slip, the other from about a day"
    planned(here, "pear")
    expect(told.call).to eq "one can be grafted once its bark is seen to slip, the others from about a day"
    lifts[trees.first]
    expect(told.call).to eq "one can be grafted now, the others from about a day"
    again = planned(here, "peach").limb.tree
    expect(told.call).to eq "one can be grafted now, one once its bark is seen to slip, the others from about a day"
    lifts[again]
    expect(told.call).to eq "two can be grafted now, the others from about a day"
  end

  it "tell of what waits for its bark alone, and of what is to be logged" do
    here = orchard
    enter person("Orla Finch", steward: here)
    trees = Array.new(3) { planned(here, "apple").limb.tree }
    told = lambda do |*lifted|
      lifted.each do |tree|
        Vestry::Deeds::SeeStage.call(tree, stage: nil, slipping: true, on: World::TODAY, today: World::TODAY,
                                           by: "Orla")
      end
      head("/o/#{here.slug}/graft")[/; (.*)\.\z/, 1]
    end
    expect(told[]).to eq "graft each once its bark is seen to slip"
    expect(told[trees[0]]).to eq "one can be grafted now, two once their bark is seen to slip"
    expect(told[trees[1]]).to eq "two can be grafted now, one once its bark is seen to slip"
    expect(told[trees[2]]).to eq "log each one as soon as it is set"
    trees.drop(1).each { |tree| tree.limbs.first.planned.update(role: "nurse") }
    expect(told[]).to eq "log it as soon as it is set"
  end

  it "tell of what is past its last sensible day beside what waits" do
    here = orchard
    row, old, other = Array.new(3) { planned(here, "apple") }
    told = lambda do |*rows, on: World::TODAY|
      place = Vestry::Records::Orchard[here.id]
      Vestry::Web::Headline.new(place, on).send(:waiting_in, rows, place.season_to_plan(on))
    end
    [old, other].each { |each| each.update(season: 2025) }
    expect([told[old], told[old, other]])
      .to eq ["1 limb was not grafted by its last sensible day: move it to 2026.",
              "2 limbs were not grafted by their last sensible day: move them to 2026."]
    expect([told[row, old], told[row, old, other]])
      .to eq ["1 limb is decided and waiting for the knife in 2026; 1 more is past its last sensible day.",
              "1 limb is decided and waiting for the knife in 2026; 2 more are past their last sensible day."]
    expect(told[row]).to eq "1 limb is decided and waiting for the knife in 2026."
    # The same of this season's, while another kind slips on.
    tree(here, species: "walnut")
    closes = Vestry::Records::Orchard[here.id].last_days(Date.new(2026, 6, 1)).of_kind("apple")
    expect([told[row, on: closes], told[row, on: closes + 1]])
      .to eq ["1 limb is decided and waiting for the knife in 2026.",
              "1 limb was not grafted by its last sensible day: move it to 2027."]
  end

  it "are of the tree where the limb that an address names has come off" do
    here = orchard
    enter person("Orla Finch", steward: here)
    stock = tree(here)
    off, on = limb(stock, "A"), limb(stock, "B", bearing_deg: 180)
    Vestry::Deeds::TakeOff.call(off, on: World::TODAY, today: World::TODAY, by: "Orla Finch")
    said = [off, on].map { |each| head("/o/#{here.slug}/plan/trees/#{stock.id}?limb=#{each.id}") }
    expect(said).to eq ["A1 has no plan: choose a limb to be worked.",
                        "A1 B has nothing decided: work it, keep it or lift it."]
  end

  it "say of a limb that came off that it did, and nothing else" do
    here = orchard
    enter person("Orla Finch", steward: here)
    stock = tree(here)
    off, worked = limb(stock, "A"), limb(stock, "B", bearing_deg: 180)
    Vestry::Deeds::DecideLimb.call(off, { role: "work" }, by: "Orla", season: 2026)
    made = graft(worked, grafted_on: Date.new(2025, 4, 20))
    Vestry::Deeds::RecordLoss.call(made, on: Date.new(2026, 1, 5), cause: "blown-out", by: "Orla", today: World::TODAY)
    [off, worked].each do |each|
      Vestry::Deeds::TakeOff.call(each.reload, on: World::TODAY, today: World::TODAY, by: "Orla Finch")
    end
    words = ->(limb, day) { Vestry::Web::Headline.new(here, day).limb(Vestry::Records::Limb[limb.id]) }
    expect([words[off, World::TODAY], words[worked, World::TODAY], words[off, World::TODAY - 1]])
      .to eq ["A1 A came off on 18 May.", "A1 B, grafted with Skylark Russet on 20 April 2025, came off on 18 May.",
              "A1 A is to be worked; choose its cut, method and variety."]
    expect(%W[tally/limbs/#{off.id} graft/limbs/#{off.id} graft/limbs/#{off.id}/cuts graft/limbs/#{off.id}/different]
      .map { |path| head("/o/#{here.slug}/#{path}") }.uniq).to eq ["A1 A came off on 18 May."]
  end

  it "tell in a limb's story what was not there as not there, and of film as film" do
    here = orchard
    enter person("Orla Finch", steward: here)
    seen = { callus: "none", stock_shoots: "none", wrap_state: "sound" }
    told = %w[film stretch-tape].map do |wrap|
      made = graft(limb(tree(here)), wrap: wrap)
      Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: World::TODAY, seen_by: "Orla",
                                    **seen)
      get "/o/#{here.slug}/tend/grafts/#{made.id}"
      html = Nokogiri::HTML(last_response.body)
      [html.css(".story li.visited").text.split.join(" ")[/No callus.*stock shoots/],
       html.at_css("#union .part[data-part=wrap]")["aria-label"]]
    end
    expect(told).to eq [["No callus, film sound, no stock shoots", "film not looked at"],
                        ["No callus, tape sound, no stock shoots", "tape not looked at"]]
  end

  it "tell in a limb's story that it came off with what it grew from" do
    here = orchard
    enter person("Orla Finch", steward: here)
    stock = limb(tree(here))
    branch = limb(stock.tree, "A1", parent_id: stock.id, fork_mm: 1200, girth_mm: 90)
    bare = limb(stock.tree, "B", bearing_deg: 180)
    set = Date.new(2026, 5, 4)
    Vestry::Deeds::LogGraft.fell(stock, graft(stock, cut_mm: 800, grafted_on: set), "Orla Finch")
    bare.update(gone_on: set)
    story = lambda do |limb|
      get "/o/#{here.slug}/tally/limbs/#{limb.id}"
      Nokogiri::HTML(last_response.body).css(".story li.came_off").map { |line| line.text.split.join(" ") }
    end
    expect([branch, bare, stock].map(&story)).to eq [["4 May It came off with A."], ["4 May It came off."], []]
  end

  it "count a limb that came off no more among what is planned" do
    here = orchard
    enter person("Orla Finch", steward: here)
    stock = tree(here)
    nurse, kept, = limb(stock, "A"), limb(stock, "B", bearing_deg: 180), limb(stock, "C", bearing_deg: 90)
    [nurse, kept].each { |each| Vestry::Deeds::DecideLimb.call(each, { role: "nurse" }, by: "Orla", season: 2026) }
    page = "/o/#{here.slug}/plan/trees/#{stock.id}"
    nurses = lambda do
      get "/o/#{here.slug}/plan"
      Nokogiri::HTML(last_response.body).at_css("td[data-title=nurse]").text
    end
    expect([head(page), nurses.call]).to match [/2 nurse limbs kept/, "2"]
    Vestry::Deeds::TakeOff.call(nurse, on: World::TODAY, today: World::TODAY, by: "Orla Finch")
    expect([head(page), nurses.call]).to match [/1 nurse limb kept/, "1"]
  end

  it "tell how many trees of whole rows have a plan, and how many have not" do
    here = orchard
    enter person("Orla Finch", steward: here)
    kind = variety(here)
    grown = tree(here)
    [0, 90, 180].each_with_index { |at, i| limb(grown, "ABC"[i], bearing_deg: at, rise_deg: 50) }
    lay = lambda do |*trees|
      Vestry::Deeds::LayPattern.begin(here, { variety: kind.id, school: "waxed-rind", seasons: 2 }, trees.map(&:id),
                                      by: "Orla", today: Date.new(2026, 2, 1)).reload
    end
    expect(head("/o/#{here.slug}/plan/patterns/#{lay[grown].id}")).to eq "1 tree has a plan now."
    other = tree(here)
    limb(other, "A", rise_deg: 50)
    more = tree(here)
    [0, 90, 180].each_with_index { |at, i| limb(more, "ABC"[i], bearing_deg: at, rise_deg: 50) }
    bare = tree(here)
    expect(head("/o/#{here.slug}/plan/patterns/#{lay[more, bare].id}"))
      .to eq "1 tree has a plan now; 1 tree has not, for reasons below."
  end

  it "tell how thick a stick the chosen method wants, and not another's" do
    stub = limb(tree(orchard))
    wanted = lambda do |technique|
      Vestry::Web::PlanAdvice.new(stub, season: 2026, today: World::TODAY, technique: technique, at_mm: 800.0)
        .scion_wanted
    end
    expect(wanted["rind"]).to eq [6.0, 12.0]
    expect(wanted["inlay"]).to eq [8.0, 14.0]
  end

  it "tell of a top that comes off above what takes over that it stays on while nothing lives there" do
    here = orchard
    enter person("Orla Finch", steward: here)
    old = limb(tree(here), "D", girth_mm: 220)
    branch = limb(old.tree, "D1", parent_id: old.id, fork_mm: 500, bearing_deg: 0, girth_mm: 90, length_mm: 900)
    Vestry::Deeds::TakeOver.call(branch, by: "Orla", first: 2026)
    listed = lambda do
      Vestry::DB[:plan_limbs].where(limb_id: old.id).update(season: 2026)
      get "/o/#{here.slug}/plan/cuts"
      Nokogiri::HTML(last_response.body).css("td").text.split.join(" ")
    end
    expect(listed.call).to include "leave its top on for now: it comes off above D1, which is not grafted yet"
    graft(branch, grafted_on: Date.new(2026, 4, 20), cut_mm: 300, lost_on: Date.new(2026, 5, 10), lost_cause: "failed")
    expect(listed.call).to include "it comes off above D1, where the graft died"
    expect(head("/o/#{here.slug}/plan/cuts")).to eq "1 cut for 2026 on 1 tree; 1 top is left on for now."
    get "/o/#{here.slug}/plan/trees/#{old.tree_id}"
    expect(Nokogiri::HTML(last_response.body).text.split.join(" "))
      .to include "D is to come off in 2026 above D1, where the graft died: leave its top on until a graft grows there"
  end
end
