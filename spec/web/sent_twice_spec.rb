# frozen_string_literal: true

require "rack/test"

# A form pressed twice does its deed once, one press after the other or both at the same moment.
RSpec.describe "A form sent twice" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  before { enter person("Orla Finch", steward: here) }

  # What a form of a page would send, with its key.
  def form_of(page, action)
    get "/o/#{here.slug}/#{page}"
    form = Nokogiri::HTML(last_response.body).css("form[method=post]").find { |each| each["action"].end_with?(action) }
    form.css("input[type=hidden]").to_h { |each| [each["name"], each["value"]] }
  end

  def twice(action, fields)
    Array.new(2) do
      post "/o/#{here.slug}/#{action}", fields
      [last_response.status, last_response.headers["location"]]
    end
  end

  def at_once(action, fields)
    cookie = "vestry=#{Rack::Utils.escape(rack_mock_session.cookie_jar['vestry'])}"
    Array.new(4) do
      Thread.new do
        session = Rack::Test::Session.new(app)
        session.set_cookie(cookie)
        session.post("/o/#{here.slug}/#{action}", fields)
        session.last_response.status
      end
    end.map(&:value)
  end

  let(:variety) { here.varieties_in_sight.first }
  let(:bundle) { Vestry::Records::Bundle.where(orchard_id: here.id).all.max_by { |each| each.sticks.size } }
  let(:tree) { here.trees.find { |each| each.plan && each.number == 1 } || here.trees.first }

  it "promises once" do
    fields = form_of("varieties/#{variety.id}", "/promises").merge("season" => "2027", "sticks" => "7")
    before = Vestry::DB[:wood_promises].count
    expect(twice("varieties/#{variety.id}/promises", fields).uniq.size).to eq 1
    expect(at_once("varieties/#{variety.id}/promises", fields).uniq).to eq [302]
    expect(Vestry::DB[:wood_promises].count).to eq before + 1
  end

  it "splits once" do
    fields = form_of("wood/bundles/#{bundle.id}", "/split").merge("count" => "1")
    before = Vestry::DB[:bundles].count
    expect(twice("wood/bundles/#{bundle.id}/split", fields)).to all(match([302, %r{/wood/bundles/\d+\z}]))
    expect(at_once("wood/bundles/#{bundle.id}/split", fields).uniq).to eq [302]
    expect(Vestry::DB[:bundles].count).to eq before + 1
  end

  it "throws out, takes in and looks at a bundle once" do
    left = -> { Vestry::Records::Bundle[bundle.id].left }
    looks = -> { Vestry::DB[:bundle_checks].where(bundle_id: bundle.id).count }
    had, seen = left.call, looks.call
    { "away" => { "count" => "2", "to" => "split", "why" => "discarded" }, "receive" => { "count" => "5" },
      "check" => { "found" => "sound" } }.each do |act, typed|
      fields = form_of("wood/bundles/#{bundle.id}", "/#{act}").merge(typed)
      expect(twice("wood/bundles/#{bundle.id}/#{act}", fields)).to all(match([302, %r{/wood/bundles/\d+\z}]))
      expect(at_once("wood/bundles/#{bundle.id}/#{act}", fields).uniq).to eq [302]
    end
    expect([left.call, looks.call]).to eq [had + 3, seen + 1]
  end

  it "adds a variety, a limb, a bare stretch and a store once, and leads to it however often it is sent" do
    tables = %i[varieties limbs sites stores]
    counts = -> { tables.map { |table| Vestry::DB[table].count } }
    before = counts.call
    survey = "survey/trees/#{tree.id}"
    { "varieties" => ["varieties", { "name" => "New One", "species" => "apple" }],
      "#{survey}/limbs" => [survey, { "tag" => "Q", "girth" => "200", "bearing" => "10" }],
      "#{survey}/sites" => [survey, { "tag" => "S9", "at" => "700", "bearing" => "90" }],
      "wood/stores" => ["wood", { "name" => "The new cellar" }] }.each do |action, (page, typed)|
      fields = form_of(page, "/#{action[/\w+\z/]}").merge(typed)
      expect([action, twice(action, fields).uniq.size]).to eq [action, 1]
      expect([action, at_once(action, fields).uniq]).to eq [action, [302]]
    end
    expect(counts.call).to eq(before.map(&:succ))
  end

  it "logs a cut on prunings once" do
    fields = form_of("practice/cuts", "/cuts").merge("kind" => "face", "length" => "60")
    expect(twice("practice/cuts", fields).uniq.size).to eq 1
    expect(at_once("practice/cuts", fields).uniq).to eq [302]
    expect(Vestry::DB[:practice_cuts].count).to eq 1
  end

  it "begins one new version" do
    fields = form_of("plan/trees/#{tree.id}", "/versions").merge("why" => "another nurse")
    before = Vestry::DB[:plans].count
    twice("plan/trees/#{tree.id}/versions", fields)
    at_once("plan/trees/#{tree.id}/versions", fields)
    expect(Vestry::DB[:plans].count).to eq before + 1
  end

  it "adds a row of trees once, and says both times that it stands" do
    fields = form_of("survey/trees/new", "/survey/trees").merge("row" => "Q", "first" => "1", "last" => "3",
        "species" => "apple", "form" => "bush")
    expect(twice("survey/trees", fields).map(&:first)).to eq [302, 302]
    expect(at_once("survey/trees", fields).uniq).to eq [302]
    expect(Vestry::DB[:trees].where(row: "Q").count).to eq 3
  end

  it "packs once, also for two who ask at the same moment with forms of their own" do
    allow(Vestry::Deeds::Jobs::PackFiles).to receive(:enqueue)
    fields = form_of("files", "/files/orchard")
    twice("files/orchard", fields)
    at_once("files/orchard", fields.except("once"))
    expect(Vestry::DB[:exports].count).to eq 1
  end
end
