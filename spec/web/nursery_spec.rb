# frozen_string_literal: true

require "pdf-reader"
require "rack/test"

RSpec.describe "Wood from elsewhere" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let!(:kind) { variety(here, "Skylark Russet", origin: "the collection at Low Mere") }
  let!(:stock) { limb(tree(here)) }
  let(:nursery) { "/o/#{here.slug}/wood/nursery" }
  let(:season) { here.season_to_plan(World::TODAY) }

  before do
    plan = Vestry::Records::Plan.create(orchard_id: here.id, tree_id: stock.tree_id)
    Vestry::Records::PlanLimb.create(orchard_id: here.id, plan_id: plan.id, limb_id: stock.id, role: "work",
                                     season: season, technique: "rind", cut_mm: 800, sticks: 2, variety_id: kind.id)
    enter person("Orla Finch", steward: here)
  end

  def page = last_response.body

  def asked_for
    get nursery
    page[/name="sticks\[#{kind.id}\]"\s+value="(\d+)"/, 1].to_i
  end

  def order(sticks, **more)
    send_to(nursery, sticks: { kind.id.to_s => sticks }, source: "Low Mere", wanted_by: "2026-12-20", **more)
  end

  def supply = Vestry::Records::WoodSupply.new(Vestry::Records::Orchard[here.id], season, World::TODAY)

  it "is asked for with its reserve, ordered, awaited, and counts no longer as promised once it came" do
    wanted = Vestry::Records::WoodOrder.new(here, season, World::TODAY).lines.first
    expect(asked_for).to eq wanted.to_cut
    expect(wanted.to_cut).to be > 2
    expect(order("3", once: SecureRandom.uuid)).to be_between(302, 303)
    expect(asked_for).to eq wanted.to_cut - 3
    promise = Vestry::Records::WoodPromise.first
    expect(promise.values.slice(:sticks, :source, :ordered_on, :wanted_by, :received_on))
      .to eq(sticks: 3, source: "Low Mere", ordered_on: World::TODAY, wanted_by: Date.new(2026, 12, 20),
             received_on: nil)
    expect(supply.lines.first.promised).to eq 3

    get "#{nursery}.pdf?q=Low+Mere"
    text = PDF::Reader.new(StringIO.new(page)).pages.map(&:text).join(" ").squeeze(" ")
    expect(text).to include("Skylark Russet", "3 sticks", "pencil thick", "20 December 2026", "To Low Mere")

    send_to("#{nursery}/received", promise: promise.id)
    expect(last_response.headers["location"]).to end_with("/wood/nursery")
    expect([promise.reload.received_on, supply.lines.first.promised]).to eq [World::TODAY, 0]
    send_to("#{nursery}/received", promise: promise.id, back: "yes")
    expect(supply.lines.first.promised).to eq 3
  end

  # What is sent to tie a bundle, by the form that the order leads to.
  def form_of(promise)
    get nursery
    expect(page).to include("/wood/bundles/new?promise=#{promise.id}")
    cut_by = -> { Nokogiri::HTML(page).at_css("input[name=cut_by]")["value"].to_s }
    get "/o/#{here.slug}/wood/bundles/new"
    expect(cut_by.call).to eq "Orla Finch"
    get "/o/#{here.slug}/wood/bundles/new?promise=#{promise.id}"
    expect(cut_by.call).to eq ""
    html = Nokogiri::HTML5(page)
    typed = html.css(".bundle-form input:not([type=radio]):not([type=checkbox])")
      .to_h { |each| [each["name"], each["value"]] }
    { **typed.compact, "variety" => html.at_css("select[name=variety] option[selected]")["value"],
      "checked" => Vestry::Deeds::MakeBundle::CHECKS.keys.map(&:to_s) }.except("authenticity_token")
  end

  it "is no longer missing on the page of the wood, nor on the list to carry, once it is on order" do
    wood, wanted = "/o/#{here.slug}/wood", asked_for
    read = ->(path = wood) { (get path) && page.gsub(/\s+/, " ") }
    expect(read[]).to include("<b>#{wanted} sticks</b> missing: find stored wood.")
    order((wanted - 1).to_s)
    expect(read[]).to include("<b>#{wanted - 1} sticks</b> to come", "<b>1 stick</b> missing: find stored wood.")
    order("1")
    expect(read[]).to include("<b>#{wanted} sticks</b> to come", "#{wanted} sticks, on order and not come yet: ask")
    expect(read[]).not_to include("missing: find stored wood")
    expect(read["#{wood}/list"])
      .to include("Nothing is to be cut for #{season}: the #{wanted} sticks still wanted are to come",
                  "<b>0</b>; #{wanted} to come")
  end

  it "counts limbs of the season after, whose variety nobody chose, as planned" do
    Vestry::Records::PlanLimb.first(limb_id: stock.id).update(season: season + 1, variety_id: nil)
    get "/o/#{here.slug}/wood"
    expect(page.gsub(/\s+/, " "))
      .to include("1 limb is to be worked in #{season + 1}, with no variety yet: its wood is counted once it has one.")
  end

  it "is tied as it was ordered, from whom it came, and has come when its bundle is tied" do
    order("3")
    promise = Vestry::Records::WoodPromise.first
    form = form_of(promise)
    expect(form.slice("source", "count", "variety"))
      .to eq("source" => "Low Mere", "count" => "3", "variety" => kind.id.to_s)
    expect(promise.reload.received_on).to be_nil
    2.times { expect(send_to("/o/#{here.slug}/wood/bundles", **form.transform_keys(&:to_sym))).to be_between(302, 303) }
    bundle = Vestry::Records::Bundle.first
    expect([Vestry::Records::Bundle.count, bundle.source, bundle.sticks.size, promise.reload.received_on])
      .to eq [1, "Low Mere", 3, World::TODAY]
    send_to("/o/#{here.slug}/wood/bundles", **form.transform_keys(&:to_sym), client_key: SecureRandom.uuid)
    expect([last_response.status, page.include?("came on 18 May 2026 already")]).to eq [422, true]
    expect(Vestry::Records::Bundle.count).to eq 1
  end

  it "is tied once by two at once" do
    order("3")
    promise = Vestry::Records::WoodPromise.first
    tie = lambda do
      Vestry::Deeds::MakeBundle.call(Vestry::Records::Orchard[here.id],
                                     { variety: kind.id, source: "Low Mere", cut_on: World::TODAY, count: 3,
                                       promise: promise.id, checked: Vestry::Deeds::MakeBundle::CHECKS.keys },
                                     by: "Orla", today: World::TODAY)
    end
    expect(second_of_two(tie)).to eq(variety: ["came on 18 May 2026 already: it is tied"])
    expect([Vestry::Records::Bundle.count, Vestry::Records::Stick.count]).to eq [1, 3]
  end

  it "says what is wrong and keeps what was typed" do
    { ["many", {}] => "“many” is not a number of sticks", ["-3", {}] => "is not a number of sticks",
      ["3", { source: " " }] => "is wanted: a nursery", ["3", { wanted_by: "2026-01-01" }] => "is before today",
      ["", {}] => "Say of at least one variety" }.each do |(sticks, more), words|
      expect([order(sticks, **more), page.include?(words)]).to eq [422, true]
    end
    order("7", source: "")
    expect(page).to match(/name="sticks\[#{kind.id}\]"\s+value="7"/)
    expect(Vestry::Records::WoodPromise.count).to eq 0
  end

  it "is ordered once, of this orchard's varieties, by a steward" do
    key = SecureRandom.uuid
    2.times { order("3", once: key) }
    expect(Vestry::Records::WoodPromise.count).to eq 1
    foreign = variety(orchard, "Elsewhere")
    expect(send_to(nursery, sticks: { foreign.id.to_s => "3" }, source: "x")).to eq 404
    clear_cookies
    enter person("Tam Reddaway", grafter: here)
    expect(order("3")).to eq 403
  end
end
