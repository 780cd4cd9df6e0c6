# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# What may be typed is shown by examples of the orchard's own side of the world.
RSpec.describe "Examples beside fields" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  def hints(here, page)
    get "/o/#{here.slug}/#{page}"
    Nokogiri::HTML(last_response.body).css(".hint").map { |each| each.text.gsub(/[[:space:]]+/, " ").strip }
  end

  it "are days of the orchard's own spring and autumn, and its own place" do
    north, south = [[50.6, -2.9], [-41.3, 173.2]].map { |at, to| orchard(latitude: at, longitude: to) }
    orla = person("Orla Finch", steward: north)
    Vestry::Records::Membership.create(orchard_id: south.id, account_id: orla.id, role: "steward")
    enter orla
    expect([north, south].map { |here| hints(here, "varieties").first(2) })
      .to eq [["5 May", "20 Sep"], ["5 Nov", "20 Mar"]]
    expect([north, south].map { |here| hints(here, "survey/trees/new") & hints(here, "survey/trees/#{tree(here).id}") })
      .to match [include("50.6 or 50 36 N", "-2.9 or 2 54 W"), include("-41.3 or 41 18 S", "173.2 or 173 12 E")]
  end

  it "and a clock that is set for another part of the world is told of" do
    here = orchard(latitude: -41.3, longitude: 173.2, time_zone: "Etc/UTC")
    enter person("Orla Finch", steward: here)
    said = lambda do |zone, page, longitude = 173.2|
      here.update(time_zone: zone, longitude: longitude)
      get "/o/#{here.slug}/#{page}"
      Nokogiri::HTML(last_response.body).at_css("#clock-off")&.text&.gsub(/[[:space:]]+/, " ")&.strip
    end
    expect(said["Etc/UTC", "today"]).to include("The clock of Etc/UTC is 12 hours off the sun at #{here.name}")
    expect(said["Etc/UTC", "settings"]).to include("days turn at the wrong hour here")
    # Far from the sun, but no further than clocks are set; and across the line where the day changes.
    expect([said["Pacific/Auckland", "today"], said["Asia/Shanghai", "today", 76.0],
            said["Pacific/Kiritimati", "today", -157.4], said["Pacific/Apia", "today", -171.8]]).to eq [nil] * 4
    expect(said["Europe/London", "today", -70.0]).to include("Europe/London is 6 hours off")
  end
end
