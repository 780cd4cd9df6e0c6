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

  it "lead on one to the next: on the same tree, or so far to the next one" do
    enter person(grafter: here)
    stops = Nokogiri::HTML(get("/o/maunder-hill/graft/stubs").body).css("article.stop")
    labels = stops.map { |stop| stop["data-label"] }
    ways = stops.map { |stop| stop.at_css(".then")&.text.to_s.gsub(/\s+/, " ") }
    expect(ways.map { |way| way[/then (\w+ \w+)/, 1] }).to eq [*labels.drop(1), nil]
    same = labels.each_cons(2).map { |one, other| one.split.first == other.split.first }
    expect(same.tally.keys).to contain_exactly(true, false)
    expect(ways.first(same.size).map { |way| way.include?(", the same tree") }).to eq same
    apart = ways.first(same.size).zip(same, labels.each_cons(2)).reject { |_, one, _| one }
    apart.each do |way, _, both|
      at = both.map do |label|
        row, number = label.match(/\A([A-Z]+)(\d+)/).captures
        Vestry::Records::Tree.first(orchard_id: here.id, row: row, number: number.to_i).values.values_at(:map_x, :map_y)
      end
      east, north = at.transpose.map { |from, to| (to - from).to_f }
      wind = %w[north north-east east south-east south south-west west north-west][
        (Math.atan2(east, north) / Math::PI * 4).round % 8]
      expect([way, way[/, (\d+) m to/, 1].to_i])
        .to match [/ m to the #{wind}\b(?!-)/, be_within(1).of(Math.hypot(east, north))]
    end
  end
end
