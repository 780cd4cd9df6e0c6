# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "A form that corrects what is known" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }

  before { enter person(steward: here) }

  def value(path, name)
    get "/o/#{here.slug}/#{path}"
    Nokogiri::HTML(last_response.body).css("[name='#{name}']").map { |field| field["value"] }.uniq
  end

  it "shows a limb's length as it was measured, typed or not" do
    branch = limb(tree(here), length_mm: 2400)
    page = "survey/trees/#{branch.tree_id}?limb=#{branch.id}"
    expect(value(page, "length")).to include "2.40 m"
    branch.update(length_typed: "2400")
    expect(value(page, "length")).to include "2400"
  end

  it "shows the share of bark that is left in per cent" do
    wound = Vestry::Records::Wound.create(orchard_id: here.id, tree_id: tree(here).id, found_on: World::TODAY,
                                          girth_mm: 500, bark_left: 0.2, drying: true, cause: "teeth")
    expect(value("repair/#{wound.id}", "bark_left")).to eq ["20 %"]
  end
end
