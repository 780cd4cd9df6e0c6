# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# What is shown as the working of a figure comes to that figure.
RSpec.describe "Workings" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }

  def formulas(page)
    get "/o/#{here.slug}/#{page}"
    Nokogiri::HTML5(last_response.body).css(".formula").map { |each| each.text.gsub(/[[:space:]]+/, " ").strip }
  end

  # A tree of so many even limbs, some of them to be worked and the others nurses.
  def planned(species, limbs, worked)
    stock = tree(here, species: species)
    %w[A B C D].first(limbs).each_with_index do |tag, i|
      role = i < worked ? { role: "work", season: 2026 } : { role: "nurse" }
      Vestry::Deeds::DecideLimb.call(limb(stock, tag, girth_mm: 200, bearing_deg: i * 90), role, by: "Orla",
                                                                                                 season: 2026)
    end
    stock
  end

  def shoot_of(stock) = formulas("plan/trees/#{stock.id}").grep(/kept/).first

  before { enter person("Orla Finch", steward: here) }

  it "of a first shoot begin with an ordinary one of its own kind" do
    words = shoot_of(planned("plum", 4, 2))
    ordinary, kept, share, stubs, told = words
      .match(/\A(\d+) mm ÷ \(([\d.]+) kept \+ ([\d.]+) × (\d+) stubs\) = ([\d.]+) m\z/).captures.map(&:to_f)
    expect([ordinary, stubs]).to eq [600.0, 2.0]
    expect(told).to be_within(0.02).of(ordinary / (kept + share * stubs) / 1000)
  end

  it "of bark by the calendar say by how much the place moves its day" do
    tree(here)
    moved = [60, 40, 50].map do |latitude|
      here.update(latitude: latitude, altitude_m: latitude == 40 ? 300 : 0)
      get "/o/#{here.slug}/slip"
      Nokogiri::HTML5(last_response.body).at_css("main").text[/it comes (\d+ days \w+) than where that day/, 1]
    end
    # Three days a degree, and a day for each thirty metres.
    expect(moved).to eq ["30 days later", "20 days sooner", nil]
  end

  it "of a first shoot say where it is driven no further" do
    expect(shoot_of(planned("apple", 4, 4)))
      .to match(/\A450 mm × 4, the most, for 1 ÷ \(0\.00 kept \+ 0\.04 × 4 stubs\) is more = 1\.80 m\z/)
    here.update(overrides: Sequel.pg_jsonb("reckoning.vigour.most_push" => { "value" => 50, "why" => "seen" },
                                           "reckoning.vigour.least_kept" => { "value" => 0.2, "why" => "seen" }))
    expect(shoot_of(planned("apple", 3, 3)))
      .to eq "450 mm ÷ 0.2, the least, for 0.00 kept + 0.04 × 3 stubs is less = 2.25 m"
  end
end
