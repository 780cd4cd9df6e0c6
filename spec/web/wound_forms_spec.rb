# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "Forms of a stripped trunk" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  it "keep whether the blossom was stripped: not, where nothing is said" do
    form = Vestry::Web::Contracts::VisitWoundForm
    seen = { seen_on: World::TODAY }
    expect([{ blossom_stripped: true }, { blossom_stripped: false }, {}]
      .map { |more| form.to_row(seen.merge(more))[:blossom_stripped] }).to eq [true, false, false]
  end

  it "begin with pins or a binding, as the school fixes scions" do
    fixed = %w[covered-inlay waxed-rind].map do |school|
      here = orchard(school: school)
      wound = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: tree(here).id, girth_mm: 300, cause: "teeth",
                                            found_on: World::TODAY)
      clear_cookies
      enter person("Orla #{school}", steward: here)
      get "/o/#{here.slug}/repair/#{wound.id}/log"
      Nokogiri::HTML(last_response.body).at_css("[name=fixing][checked]")&.[]("value")
    end
    expect(fixed).to eq %w[pins bound]
  end

  it "take bearings in degrees from 0 to 360 and as points of the compass" do
    form = Vestry::Web::Contracts::LogRepairForm
    expect(form.bearings("0, NE;90° 360")).to eq [0.0, 45.0, 90.0, 0.0]
    %w[360.5 -1 north-ish].each do |word|
      expect { form.bearings("10 #{word}") }.to raise_error(Vestry::Deeds::Refused, /“#{word}” is no bearing/)
    end
  end
end
