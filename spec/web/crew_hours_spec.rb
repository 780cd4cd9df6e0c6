# frozen_string_literal: true

require "rack/test"

RSpec.describe "A day of the crew" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(name: "Trial Hill") }

  it "has from no hour to all of them, and from nobody to two hundred people" do
    enter person(steward: here)
    settle = lambda do |hours, people|
      send_to("/o/#{here.slug}/slip/crew/day", day: "2026-05-19", hours: hours, grafters: people)
    end
    expect([["0", "0"], ["24", "200"], ["7.5", "2"]].map { |typed| settle[*typed] }.uniq).to eq [302]
    told = [["24.5", "2"], ["-1", "2"], ["7", "201"], ["7", "-1"], ["seven", "2"], ["7", "1.5"]]
    expect(told.map { |typed| settle[*typed] }.uniq).to eq [422]
    expect(last_response.body).to include("Hours are from 0 to 24, and people from 0 to 200")
  end
end
