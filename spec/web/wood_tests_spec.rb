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

  it "names what it cannot read, and keeps nothing of it" do
    expect(check(forced: "3")).to include("say how many were forced, and how many of them moved")
    expect(check(forced: "3", forced_moved: "4")).to include("how many of them moved")
    expect(check(forced: "many", forced_moved: "1")).to include("say how many were forced, from 1 to 20")
    expect(check(weight: "-4")).to include("say its weight in g, from 1 to 100000")
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
end
