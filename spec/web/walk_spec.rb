# frozen_string_literal: true

require "rack/test"

RSpec.describe "The walk" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  it "says how many tasks are due besides those of the walk, and does not call all of it done" do
    here = demo
    allow(Vestry::Outside::Clock).to receive(:today).and_return(Date.new(2026, 6, 20))
    enter person(steward: here)
    agenda = Vestry::Records::Agenda.new(here, Date.new(2026, 6, 20))
    expect([agenda.due_count, agenda.due.size]).to eq [81, 62]
    get "/o/#{here.slug}/tend/stops"
    expect(last_response.body).to include('data-more="19"', "81 tasks", "19 tasks are due after these.")
    expect(last_response.body).not_to include "Every task that is due is done"
    get "/o/#{here.slug}/tend"
    expect(last_response.body.squeeze(" \n")).to include(", and 19 tasks more after these")
  end

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
