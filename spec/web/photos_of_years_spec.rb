# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "Photos of many years" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let!(:stock) { tree(here) }
  let!(:branch) { limb(stock, "A") }

  def photo(day, **facts)
    sizes = %w[large small].to_h { |size| [size, { "id" => "#{SecureRandom.hex(8)}.jpg", "storage" => "store" }] }
    Vestry::Records::Photo.create({ orchard_id: here.id, tree_id: stock.id, taken_on: day, by: "Orla",
                                    image: Sequel.pg_jsonb(sizes) }.merge(facts))
  end

  def open_page(path) = Nokogiri::HTML(get("/o/#{here.slug}/#{path}").body)
  def captions(page) = page.css(".photos figcaption").map { |each| each.text.split("·").first.split.join(" ") }

  before do
    enter person(viewer: here)
    3.times { |year| 5.times { |i| photo(Date.new(2023 + year, 5, 1 + i), limb_id: (branch.id if i == 4)) } }
    photo(Date.new(2026, 5, 3), hidden_at: Time.now)
    photo(Date.new(2026, 5, 4), tree_id: tree(here).id)
  end

  it "are shown by a dozen on a tree's page, the latest first, and all of them a year at a time" do
    page = open_page("survey/trees/#{stock.id}")
    expect([captions(page).size, captions(page).first, captions(page).last]).to eq [12, "5 May 2025", "4 May 2023"]
    all = page.at_css("a[href$='/trees/#{stock.id}/photos']")
    expect(all.text).to eq "all 15, year by year"
    page = open_page("survey/trees/#{stock.id}/photos")
    expect(page.at_css("h1").text).to eq "#{stock.label}: 15 photos, from 2023 to 2025."
    expect(page.css(".years a").map { |each| [each.text, each["aria-current"]] })
      .to eq [%w[2025 page], ["2024", nil], ["2023", nil]]
    page = open_page("survey/trees/#{stock.id}/photos#{page.css('.years a').last['href']}")
    expect(captions(page)).to eq((1..5).map { |day| "#{day} May 2023" })
  end

  it "of one limb are its own alone, and what nobody took is nothing" do
    page = open_page("survey/trees/#{stock.id}/photos?limb=#{branch.id}&year=2024")
    expect([page.at_css("h1").text, captions(page)]).to eq ["#{branch.label}: 3 photos, from 2023 to 2025.",
                                                            ["5 May 2024"]]
    expect(captions(open_page("survey/trees/#{stock.id}/photos?year=1999&limb=0"))).to include "5 May 2025"
    bare = tree(here)
    expect(open_page("survey/trees/#{bare.id}/photos").at_css("h1").text).to eq "No photo of #{bare.label} is kept."
    expect(get("/o/#{here.slug}/survey/trees/0/photos").status).to eq 404
  end
end
