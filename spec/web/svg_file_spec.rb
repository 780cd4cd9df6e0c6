# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "A drawing as a file" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  def page(path) = get(path) && last_response
  def drawings(path) = Nokogiri::HTML5(page(path).body).css(".drawing-files a").map { |link| [link.text, link["href"]] }

  it "is offered under each page that draws, and stands alone" do
    enter(person(steward: here))
    tree = Vestry::Records::Tree.first(orchard_id: here.id, row: "A", number: 3)
    %W[survey survey/trees/#{tree.id} repair/#{Vestry::Records::Wound.exclude(girth_mm: nil).first.id} tally/took slip]
      .each do |path|
      offered = drawings("/o/#{here.slug}/#{path}")
      expect([path, offered.size]).to match [path, be_positive]
      file = page("/o/#{here.slug}/#{path}#{offered.first.last}")
      expect([file.status, file["content-type"]]).to match [200, %r{image/svg\+xml}]
      document = Nokogiri::XML(file.body) { |config| config.strict }
      expect(document.root.namespace.href).to eq "http://www.w3.org/2000/svg"
      expect(document.root["viewBox"].split[2].to_f.round).to eq document.root["width"].to_i
      expect(file.body).not_to match(/var\(|color-mix|href=|<a /)
      expect(document.remove_namespaces!.at_css("style").text).to include(".drawing path").and include("#1f2a24")
    end
    expect(page("/o/#{here.slug}/survey?drawing=40").status).to eq 404
    expect(page("/o/#{here.slug}/settings?drawing=0").status).to eq 404
    # No drawing is looked for in what was not found.
    expect(page("/o/#{here.slug}/survey/trees/999999?drawing=1").body).to include "<h1"
  end
end
