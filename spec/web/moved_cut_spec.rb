# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "A cut that is moved along its limb" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let!(:stock) { tree(here) }
  let!(:one) { limb(stock, "A", girth_mm: 300, length_mm: 2400) }
  let!(:branch) { limb(stock, "A1", parent_id: one.id, fork_mm: 1000, girth_mm: 160, length_mm: 900) }
  let!(:other) { limb(stock, "B", girth_mm: 250, bearing_deg: 270) }

  def at(mm)
    get "/o/#{here.slug}/plan/limbs/#{one.id}/cut?at=#{mm}&technique=rind"
    expect(last_response.status).to eq 200
    page = Nokogiri::HTML(last_response.body)
    { removes: page.css("#place dt").find { |each| each.text == "Removes" }.next_element.text,
      stub: page.at_css("#stub svg").to_s, now: page.at_css("h1.now").text }
  end

  it "takes less of the head once a branch is passed, and its stub and its sentence change with it" do
    enter person("Orla Finch", steward: here)
    below, above = at(900), at(1100)
    # Sections in square millimetres of girth: A 90000 less 25600 of its branch, A1 25600, B 62500.
    expect([below[:removes], above[:removes]]).to eq ["59 % of the head", "42 % of the head"]
    expect(below[:stub]).not_to eq above[:stub]
    expect([below[:now], above[:now]]).to match [/A1 A cut at 900 mm from the fork/,
                                                 /cut at 1.10 m .* 42 % of the head comes off/]
  end
end
