# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "A page's title" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard(name: "Hill & <Dale>") }
  let!(:kind) { variety(here, "Smith's <b>Best</b>") }
  let!(:stock) { limb(tree(here)) }

  def title(path)
    get path
    Nokogiri::HTML(last_response.body).at_css("title").text
  end

  it "says what the page is about, its station and its orchard, and of a station's own page the station" do
    expect(title("/sign-in")).to match(/\A.+ · Vestry\z/)
    enter person(steward: here)
    inside = ["survey", "survey/trees/#{stock.tree_id}", "plan/trees/#{stock.tree_id}?limb=#{stock.id}",
              "varieties/#{kind.id}"].map { |path| title("/o/#{here.slug}/#{path}") }
    expect(inside).to eq ["Survey · Hill & <Dale>", "A1 has no plan · Survey · Hill & <Dale>",
                          "A1 A has nothing decided · Plan · Hill & <Dale>",
                          "Smith's <b>Best</b> stands nowhere here · Varieties · Hill & <Dale>"]
    expect(title("/you")).to eq "You are Orla Finch · Vestry"
  end
end
