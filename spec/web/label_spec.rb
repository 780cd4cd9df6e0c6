# frozen_string_literal: true

require "rack/test"

RSpec.describe "A label's short address" do
  include Rack::Test::Methods
  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  def leads_to(code)
    get "/t/#{code}"
    last_response.headers["location"]
  end

  it "leads to the plan, the log, the visit or the count: whatever its limb wants now" do
    enter person(steward: here)
    grafted = here.grafts.find { |graft| graft.fate != "lost" && graft.tallies.none? }
    ready = here.planned(:waiting, 2026).rows.find(&:complete?).limb
    bare = here.trees_dataset.first(row: "B", number: 9).limbs.first
    tree = bare.tree
    expect(leads_to(grafted.limb.code)).to end_with "/tend/grafts/#{grafted.id}"
    expect(leads_to(ready.code)).to end_with "/graft/limbs/#{ready.id}"
    expect(leads_to(bare.code)).to end_with "/plan/trees/#{tree.id}?limb=#{bare.id}"
    expect(leads_to(tree.code)).to end_with "/survey/trees/#{tree.id}"
    allow(Vestry::Outside::Clock).to receive(:today).and_return(Date.new(2026, 10, 12))
    expect(leads_to(grafted.limb.code)).to end_with "/tally/grafts/#{grafted.id}"
    Vestry::Deeds::RecordTally.call(grafted, { tallied_on: Date.new(2026, 10, 12), alive: true, growth_mm: 300 },
                                    by: "Orla", today: Date.new(2026, 10, 12))
    expect(leads_to(grafted.limb.code)).to end_with "/tend/grafts/#{grafted.id}"
  end

  it "sends who may not decide to what they may see" do
    enter person(viewer: here)
    ready = here.planned(:waiting, 2026).rows.find(&:complete?).limb
    expect(leads_to(ready.code)).to end_with "/survey/trees/#{ready.tree_id}?limb=#{ready.id}"
  end

  it "reads a code as it is typed off a label, and finds nothing of another orchard" do
    other = orchard(name: "Other Hill")
    enter person(grafter: here)
    tree = here.trees.first
    tree.update(code: "01VA01VA1")
    expect(leads_to("olua-oi%20ual")).to end_with "/survey/trees/#{tree.id}"
    strange = Vestry::Records::Tree.create(orchard_id: other.id, row: "A", number: 1, species: "apple", form: "bush")
    ["#{strange.code}", "NOSUCH", "'--"].each do |code|
      leads_to(code)
      expect([code, last_response.status]).to eq [code, 404]
    end
  end

  it "asks who it is, and goes on from there" do
    code = here.trees.first.code
    get "/t/#{code}"
    expect(last_response.headers["location"]).to end_with "/sign-in"
  end

  it "travels with a packed orchard, also into a place that has the same orchard already" do
    limb = here.trees.first.limbs.first
    codes = Vestry::Records::Limb.where(orchard_id: here.id).select_order_map(:code)
    expect(codes.uniq.size).to eq codes.size
    copy = Dir.mktmpdir do |folder|
      Vestry::Records::Archive.pack(here, "#{folder}/one.zip")
      Vestry::Records::Archive.read("#{folder}/one.zip", slug: "copy")
    end
    expect(Vestry::Records::Limb.where(orchard_id: copy.id).select_order_map(:code)).to eq codes
    enter person("Cleo", steward: copy)
    get "/t/#{limb.code}"
    expect(last_response.headers["location"]).to include "/o/copy/"
  end
end
