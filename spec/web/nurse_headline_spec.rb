# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# A nurse limb that has done its work is said where nothing presses more, and nowhere is it said that nothing is to do.
RSpec.describe "A nurse limb that can come off" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { Vestry::Records::Archive.read(File.join(Vestry::ROOT, "demo/tern-flat")) }

  def head(page)
    get "/o/#{here.slug}/#{page}"
    Nokogiri::HTML(last_response.body).at_css("h1").text
  end

  it "is Today's and Tend's sentence while nothing is due, and leaves them when it is off" do
    day = Date.new(2028, 2, 29)
    allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
    enter person("Orla Finch", steward: here)
    expect([head("tend/nurses"), head("tend"), head("today")])
      .to eq ["H1 A can come off now.", *["Nothing else is due today: nurse limb H1 A can come off."] * 2]
    limb = here.trees_dataset.first(row: "H", number: 1).limbs_dataset.first(tag: "A")
    Vestry::Deeds::TakeOff.call(limb, on: day, today: day, by: "Orla Finch")
    expect(head("today")).not_to include "come off"
    expect(head("tend")).to match(/\ANothing is due today; next is H\d/)
  end
end
