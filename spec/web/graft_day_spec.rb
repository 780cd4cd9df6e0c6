# frozen_string_literal: true

require "rack/test"

RSpec.describe "The stubs that wait" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  def page = Nokogiri::HTML(get("/o/maunder-hill/graft").body)
  def listed(page, id) = page.css("section[aria-labelledby=#{id}] tbody th").map { |cell| cell.text.strip }

  it "are those that still have time; what was left from another season stands apart, and is not the next" do
    enter person(grafter: here)
    first = page
    labels = listed(first, "w")
    expect([labels.size, listed(first, "p"), first.at_css(".docket h2 a").text]).to eq [14, [], labels.first]
    left = Vestry::Records::PlanQueries.waiting_stubs(here, 2026).first
    left.update(season: 2025)
    later = page
    expect([listed(later, "w"), listed(later, "p")]).to eq [labels.drop(1), labels.first(1)]
    expect(later.at_css(".docket h2 a").text).to eq labels[1]
    expect(later.at_css(".now").text).to match(/\A13 stubs are waiting on .+; 1 more is past its last sensible day/)
  end
end
