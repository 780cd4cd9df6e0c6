# frozen_string_literal: true

require "rack/test"

RSpec.describe "Taking out of sight, and the changes that were made" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let(:rows) do
    { "trees" => here.trees.first, "varieties" => here.varieties_in_sight.first,
      "limbs" => here.trees.first.limbs.first }
  end

  def press(path)
    get "/you"
    post "/o/#{here.slug}#{path}", authenticity_token: token
    last_response.status
  end

  it "is by kind: a grafter takes away what grafters log, and neither trees nor varieties" do
    tam = person("Tam Reddaway", grafter: here)
    key = Vestry::Records::ApiToken.issue(tam, "x")
    enter tam
    expect(rows.to_h { |kind, row| [kind, press("/history/#{kind}/#{row.id}/hide")] })
      .to eq("trees" => 403, "varieties" => 403, "limbs" => 302)
    expect(rows.to_h { |kind, row| [kind, press("/history/#{kind}/#{row.id}/restore")] })
      .to eq("trees" => 403, "varieties" => 403, "limbs" => 302)
    by_key = rows.to_h do |kind, row|
      [kind, delete("/api/orchards/#{here.slug}/#{kind}/#{row.id}", "", "HTTP_AUTHORIZATION" => "Bearer #{key}").status]
    end
    expect(by_key).to eq("trees" => 403, "varieties" => 403, "limbs" => 200)
    get "/o/#{here.slug}/survey/trees/#{rows['trees'].id}"
    expect(last_response.body).not_to include("Take this tree away")
  end

  # The link of a page that takes something away, followed and pressed.
  def take_away(page, label)
    get "/o/#{here.slug}/#{page}"
    link = Nokogiri::HTML(last_response.body).at_css("a[aria-label='#{label}']")["href"]
    get link
    expect(last_response.status).to eq 200
    post link, authenticity_token: token
  end

  it "takes away a visit, a count and a look at a trunk that stand on the wrong one, and what they meant with them" do
    enter person("Tam Reddaway", grafter: here)
    graft = graft(limb(here.trees.first, "Z"))
    before = graft.fate
    Vestry::Deeds::RecordVisit.call(graft, { seen_on: World::TODAY, verdict: "failed" }, by: "Tam", today: World::TODAY)
    expect(Vestry::Records::Graft[graft.id].fate).to eq "lost"
    take_away("tend/grafts/#{graft.id}", "Take away the visit of 18 May")
    expect([before, Vestry::Records::Graft[graft.id].fate].uniq.size).to eq 1

    tally = Vestry::Records::Tally.in_sight.where(orchard_id: here.id).order(:id).last
    take_away("tend/grafts/#{tally.graft_id}", "Take away the tally of #{tally.season}")
    seen = Vestry::Records::WoundVisit.in_sight.where(orchard_id: here.id).order(:id).last
    take_away("repair/#{seen.wound_id}", "Take away the visit of #{seen.seen_on.strftime('%-d %B')}")
    expect([tally, seen].map { |row| row.reload.hidden? }).to eq [true, true]
    tree = here.trees_dataset.first(row: "B", number: 7)
    bark = -> { Vestry::Records::PhenologySeen.of_day(tree, World::TODAY)&.slipping }
    Vestry::Deeds::SeeStage.call(tree, stage: nil, slipping: false, on: World::TODAY, today: World::TODAY, by: "Tam")
    expect(bark.call).to be false
    take_away("slip/walk?row=B", "Take away what was seen of B7 on 18 May")
    expect(bark.call).to be_nil
    get "/o/#{here.slug}/history"
    expect(Nokogiri::HTML(last_response.body).text.squeeze(" ")).to include("look at a trunk")
  end

  it "lays the sticks of a limb's and a tree's grafts in their bundle too, and takes them when they are brought back" do
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: variety(here, "Trial Kind").id,
                                            source: "row S", cut_on: Date.new(2026, 1, 20))
    Vestry::Records::Stick.add(bundle, [8.0, 9.0, 10.0])
    stock = here.trees.first
    made = graft(limb(stock, "Y"), variety_id: bundle.variety_id)
    Vestry::Deeds::MoveSticks.use(bundle, made, 2, by: "Tam")
    on = -> { bundle.sticks_dataset.exclude(graft_id: nil).select_map(:graft_id) }
    [made.limb, stock].each do |row|
      expect(Vestry::Deeds::Hide.frees_sticks?(row.refresh)).to be true
      Vestry::Deeds::Hide.call(row, by: "Tam")
      expect(on.call).to eq []
      Vestry::Deeds::Hide.undo(row.refresh, by: "Tam")
      expect(on.call).to eq [made.id, made.id]
    end
  end

  it "lays the sticks of a graft that is taken away in their bundle again, and takes them when it is brought back" do
    kind = variety(here, "Trial Kind")
    bundle = Vestry::Records::Bundle.create(orchard_id: here.id, variety_id: kind.id, source: "row S",
                                            cut_on: Date.new(2026, 1, 20))
    Vestry::Records::Stick.add(bundle, [8.0, 9.0, 10.0])
    made = graft(limb(here.trees.first, "Y"), variety_id: kind.id)
    Vestry::Deeds::MoveSticks.use(bundle, made, 2, by: "Tam")
    on = -> { bundle.sticks_dataset.order(:number).select_map(:graft_id) }
    enter person("Sue Steward", steward: here)
    said = lambda do
      get "/o/#{here.slug}/history/grafts/#{made.id}/hide"
      Nokogiri::HTML(last_response.body).text.split.join(" ").include?("Its sticks go back into their bundle.")
    end
    expect(said.call).to be true
    Vestry::Deeds::MoveSticks.give_back(made, by: "Tam")
    expect(said.call).to be false
    Vestry::Deeds::MoveSticks.use(bundle.refresh, made, 2, by: "Tam")
    Vestry::Deeds::Hide.call(made, by: "Tam")
    expect(on.call).to eq [nil, nil, nil]
    other = graft(limb(here.trees.first, "X", bearing_deg: 10), variety_id: kind.id, sticks: 1)
    Vestry::Deeds::MoveSticks.use(bundle.refresh, other, 1, by: "Tam")
    Vestry::Deeds::Hide.undo(made.refresh, by: "Tam")
    expect(on.call).to eq [other.id, made.id, nil]
    wound = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: here.trees.first.id, girth_mm: 500,
                                          found_on: World::TODAY, bark_left: 0.2, drying: true, cause: "teeth")
    Vestry::Records::Stick.set_into(wound, [bundle.sticks_dataset.order(:number).last])
    bridged = -> { bundle.sticks_dataset.order(:number).select_map(:wound_id).last }
    expect([[Vestry::Deeds::Hide.call(wound, by: "Tam"), bridged.call].last,
            [Vestry::Deeds::Hide.undo(wound.refresh, by: "Tam"), bridged.call].last]).to eq [nil, wound.id]
  end

  it "lets stand again what a graft was said to have cut off, but for what came off by itself" do
    stock = limb(here.trees.first, "Y", length_mm: 2400)
    above, beside, below = [["Y1", 1500], ["Y2", 1600], ["Y3", 300]].map do |tag, fork|
      limb(stock.tree, tag, parent_id: stock.id, fork_mm: fork, girth_mm: 60, length_mm: 500, bearing_deg: 20)
    end
    twig = limb(stock.tree, "Y1A", parent_id: above.id, fork_mm: 100, girth_mm: 30, length_mm: 200, bearing_deg: 20)
    day = Date.new(2026, 5, 6)
    Vestry::Deeds::RecordLimbEvent.call(beside, { kind: "taken-off", happened_on: day }, by: "Tam", today: World::TODAY)
    kind = here.varieties_in_sight.find { |each| each.species == "apple" }
    made = Vestry::Deeds::LogGraft.call(stock.refresh, { grafted_on: day, technique: "rind", variety_id: kind.id,
                                                         stub_mm: 60, cut_mm: 900, sticks: 2, grafter: "Tam",
                                                         wrap: "stretch-tape", seal: "wax", cover: "wax-only",
                                                         against_reason: "trial" }, by: "Tam", today: World::TODAY)
    gone = -> { [above, twig, beside, below].map { |each| each.refresh.gone_on } }
    expect(gone.call).to eq [day, day, day, nil]
    Vestry::Deeds::Hide.call(made, by: "Tam")
    expect(gone.call).to eq [nil, nil, day, nil]
    Vestry::Deeds::Hide.undo(made.refresh, by: "Tam")
    expect(gone.call).to eq [day, day, day, nil]
  end

  it "says what goes with each kind before it is taken away" do
    enter person("Sue Steward", steward: here)
    wound = Vestry::Records::Wound.first
    tree = here.trees_dataset.first(row: "A", number: 1)
    said = { "wounds" => wound.id, "trees" => tree.id }.map do |kind, id|
      get "/o/#{here.slug}/history/#{kind}/#{id}/hide"
      last_response.body[/<h1[^>]*>\s*(.*?)\s*<\/h1>/m, 1]
    end
    rest = "out of sight; nothing is destroyed, and all of it can be brought back."
    expect(said).to eq ["This takes 1 stripped trunk #{rest}",
                        "This takes 1 tree, 5 limbs, 3 grafts, 5 visits and 2 counts #{rest}"]
  end

  it "tells of the facts that people know, and of none that only the machine needs" do
    enter person("Sue Steward", steward: here)
    tree = here.trees.first
    Vestry::Deeds::Ledger.change(tree, { height_mm: tree.height_mm + 100, map_x: 1.5 }, by: "Sue Steward")
    get "/o/#{here.slug}/history", kind: "trees", row: tree.id
    told = Nokogiri::HTML(last_response.body).at_css("main").text
    expect(told).to match(/height/i)
    expect(told).not_to match(/\bid\b|map.x|version|client.key|orchard.id/i)
  end

  it "is a steward's for all of them" do
    enter person("Sue Steward", steward: here)
    expect(rows.map { |kind, row| press("/history/#{kind}/#{row.id}/hide") }).to eq [302, 302, 302]
  end

  it "leads to earlier changes where there are any, and shows each once" do
    enter person("Sue Steward", steward: here)
    tree = here.trees.first
    [4100, 4200, 4300].each { |mm| Vestry::Deeds::Ledger.change(tree.refresh, { height_mm: mm }, by: "Sue Steward") }
    all = lambda do |page|
      stub_const("Vestry::Web::Admin::HistoryPages::PAGE", page)
      get "/o/#{here.slug}/history", kind: "trees", row: tree.id
      shown = Nokogiri::HTML(last_response.body)
      [shown.css("main tbody tr").size, shown.at_css("main a[href*='before=']")&.[]("href")]
    end
    expect([3, 4].map(&all)).to eq [[3, nil], [3, nil]]
    shown, older = all[2]
    get older
    # Of the same tree.
    expect([shown, Nokogiri::HTML(last_response.body).css("main tbody tr").size]).to eq [2, 1]
  end

  it "shows every change after a file was taken back, whatever kind it was" do
    enter person("Sue Steward", steward: here)
    files = { "trees" => "row,number,species\nZ,1,apple\n", "limbs" => "tree,tag,girth_mm,length_mm\nA1,Z,200,1500\n",
              "varieties" => "name,species\nNew One,apple\n", "weather" => "day,min_c,max_c\n1999-01-01,1,9\n" }
    files.each do |kind, text|
      import = Vestry::Deeds::ImportFile.preview(here, kind, "#{kind}.csv", text.b, by: "Sue Steward",
                                                 today: World::TODAY)
      Vestry::Deeds::ImportFile.begin(import)
      Vestry::Deeds::ImportFile.write(import.reload, today: World::TODAY)
      Vestry::Deeds::ImportFile.undo(import.reload, by: "Sue Steward")
      get "/o/#{here.slug}/history"
      expect([kind, last_response.status]).to eq [kind, 200]
    end
  end
end
