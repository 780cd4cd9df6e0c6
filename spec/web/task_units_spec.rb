# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# Lengths in what a task asks for are said in the orchard's units, wherever its words stand.
RSpec.describe "The words of a task" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:day) { Date.new(2027, 1, 5) }

  # What is asked of a graft in a side whose head comes off now: on the agenda, on its page and in a calendar.
  def said(units)
    here = orchard(units: units)
    made = graft(limb(tree(here), "A", girth_mm: 230, length_mm: 2000), technique: "side-bark", sticks: 1, cut_mm: 500)
    Vestry::Records::Visit.create(orchard_id: here.id, graft_id: made.id, seen_on: Date.new(2026, 7, 1),
                                  verdict: "took", longest_shoot_mm: 300, seen_by: "Orla")
    allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
    enter person("Orla of #{here.slug}", steward: here)
    pages = ["tend", "tend/stops", "tend/grafts/#{made.id}"].map do |page|
      get "/o/#{here.slug}/#{page}"
      Nokogiri::HTML(last_response.body).tap { |html| html.css("script").remove }.text
    end
    calendar = Vestry::Records::CalendarKey.create(orchard_id: here.id, digest: SecureRandom.hex(16), account_id:
      Vestry::Records::Account.order(:id).last.id)
    [*pages, Vestry::Web::AgendaCalendar.of(calendar, nil).gsub(/\r\n /, "")]
      .map { |text| text.gsub(/[[:space:]]+/, " ")[/Saw the limb off (.+?) above the graft/, 1] }
  end

  it "are metric where the orchard is" do
    expect(said("metric").uniq).to eq ["20 mm"]
  end

  it "are in inches where the orchard is" do
    expect(said("imperial").uniq).to eq ["13/16 in"]
  end
end
