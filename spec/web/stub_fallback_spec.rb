# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "What stands beside the sticks of a planned stub" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let!(:stock) { tree(here) }
  let!(:one) { limb(stock, "A", girth_mm: 220, length_mm: 2400) }
  let!(:amber) { variety(here, "Amber") }

  def shown(today: World::TODAY)
    stub_const("ENV", ENV.to_h.merge("VESTRY_TODAY" => today.iso8601))
    get "/o/#{here.slug}/plan/trees/#{stock.id}?limb=#{one.id}"
    Nokogiri::HTML(last_response.body)
  end

  before do
    Vestry::Deeds::DecideLimb.call(one, { role: "work", technique: "rind", cut: 600.0, practice: "single",
                                          variety: amber.id }, by: "Orla", season: 2026)
    enter person("Orla Finch", steward: here)
  end

  it "says what a shoot bears in week eight by its union and this site's gusts, beside what it is to grow" do
    # Strength 40 (1 - e^(-8/60)) x 0.6 on a foot of 2.5 + 0.0095 x 600 mm, against 0.5 x 1.2 x 0.35 x 0.07 x 25^2.
    Vestry::DB[:weather_days].multi_insert((1..3).map do |n|
      { orchard_id: here.id, day: Date.new(2025, 7, n), min_c: 9, max_c: 19, gust_ms: [18, 25, 12][n - 1] }
    end)
    strength = 40 * (1 - Math.exp(-8 / 60.0)) * 0.6
    foot = 2.5 + 0.0095 * 600
    safe = Math.sqrt(2 * strength * Math::PI * foot**3 / 32 / 1000 / (1.5 * 0.5 * 1.2 * 0.35 * 0.07 * 25**2)) * 1000
    words = shown.at_css("#sticks").text
    expect(words.squeeze(" \n"))
      .to include("In gusts of 25 m/s a shoot of week 8 is safe to #{(safe / 10).floor * 10} mm; ",
                  "will come: brace it")
  end

  it "plans the bud that stands in, with its shoots, its days and its wood, and sums that wood for the orchard" do
    words = shown.at_css("#bud-fallback").text.squeeze(" \n")
    expect(words).to match(/2 buds into its new shoots, 6 mm to 7 mm thick, between \d+ Aug and \d+ \w+: chip/)
    expect(words).to include("They want 1 stick of this summer's wood")
    get "/o/#{here.slug}/wood"
    expect(Nokogiri::HTML(last_response.body).at_css("#summer-buds").text).to include("Amber 1 stick for 1 stub")
  end
end
