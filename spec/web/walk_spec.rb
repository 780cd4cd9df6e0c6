# frozen_string_literal: true

require "rack/test"

RSpec.describe "The walk" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  it "says how long a new shoot is to be, by the kinds on the row" do
    here = orchard(school: "covered-inlay")
    tree(here, row: "W", species: "walnut")
    tree(here, row: "W", species: "pear")
    tree(here, row: "A", species: "apple")
    enter person(steward: here)
    get "/o/#{here.slug}/slip/walk", row: "W"
    said = last_response.body[%r{The school's sign.*?</p>}m].gsub(/<[^>]+>/, "").squeeze(" \n").tr("\n", " ")
    expect(said).to match(/walnut 75 mm/).and match(/pear 20 mm/)
    expect(said).not_to include "apple"
    here.update(school: "waxed-rind")
    get "/o/#{here.slug}/slip/walk", row: "W"
    expect(last_response.body).not_to include "75 mm"
  end
end
