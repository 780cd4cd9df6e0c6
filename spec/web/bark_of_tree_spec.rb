# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# What is said of one tree's bark, on every page that speaks of it.
RSpec.describe "The bark of one tree" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }
  let(:plum) { tree(here, species: "plum") }
  let(:spring) { Vestry::Records::BarkForecast.new(here, Date.new(2026, 5, 1)) }
  let(:opens) { spring.of_trees([plum]).first.opens_on }
  let(:closes) { spring.closes_on("plum") }

  before do
    enter person("Orla Finch", steward: here)
    Vestry::Deeds::DecideLimb.call(limb(plum, "A", girth_mm: 150, length_mm: 2000), {
                                     role: "work", season: 2026, cut: 1500.0, technique: "rind", against_reason: "so",
                                     variety: variety(here, "Tollgate Plum", species: "plum").id
                                   }, by: "Orla", season: 2026)
  end

  def on(day) = allow(Vestry::Outside::Clock).to(receive(:today).and_return(day))

  def see(day, slipping: nil, closed: false)
    Vestry::Deeds::SeeStage.call(plum, stage: "green", slipping: slipping, closed: closed, on: day, today: day,
                                       by: "Orla")
  end

  # What the walk's page says of it, the walk's headline, and what the crew can set.
  def pages_on(day)
    on(day)
    get "/o/#{here.slug}/slip/walk"
    walk = Nokogiri::HTML(last_response.body)
    get "/o/#{here.slug}/slip/crew"
    crew = Nokogiri::HTML(last_response.body)
    [walk.at_css(".tree-walk h2 .sub"), walk.at_css("h1.now"), crew.at_css("h1.now")].map { |each| each.text.strip }
  end

  def said(day) = day.strftime("%-d %b")

  it "says that it slips until it closes, and that it lifts no longer from the day on which it was seen so" do
    see(opens, slipping: true)
    expect(pages_on(opens)).to match ["slips, seen #{said(opens)}", /every tree was seen to slip/, /\AToday: 1 stub/]
    see(opens + 9, slipping: false)
    expect(pages_on(opens + 9))
      .to match ["lifts no longer, seen #{said(opens + 9)}", /: bark lifts no longer\.\z/, /will not fit|No stub waits/]
    see(opens + 12, slipping: true)
    expect(pages_on(opens + 12).first).to eq "slips, seen #{said(opens)}"
    see(opens + 20, closed: true)
    expect(pages_on(opens + 20).first).to eq "lifts no longer, seen #{said(opens + 20)}"
  end

  it "is over a week after it last lifted, and not by the calendar alone" do
    see(opens, slipping: true)
    see(closes, slipping: true)
    # A Friday; bark lifts until the Sunday.
    expect(pages_on(closes + 5)).to match ["slips, seen #{said(opens)}", /was seen to slip/, /\AToday: 1 stub/]
    expect(pages_on(closes + 7).first).to eq "slips, seen #{said(opens)}"
    expect(pages_on(closes + 8))
      .to match ["slipped, seen #{said(opens)}, and closed about #{said(closes + 7)}", /lifts no longer/, /\ANo stub/]
  end

  it "does not speak of a row as closed while one of its trees slips" do
    late = tree(here, row: plum.row, number: plum.number + 1, species: "plum")
    see(closes, slipping: true)
    expect(pages_on(closes + 2)[1])
      .to eq "Row A: 1 tree slips yet; 1 tree was never seen to slip this year, and closed."
    Vestry::Deeds::SeeStage.call(late, stage: "green", slipping: true, on: closes + 2, today: closes + 2, by: "Orla")
    expect(pages_on(closes + 9)[1]).to eq "Row A: every tree was seen to slip."
    expect(pages_on(closes + 10)[1]).to eq "Row A: bark lifts no longer."
  end

  it "is looked for again some days after it did not lift" do
    see(opens + 3, slipping: false)
    expect(pages_on(opens + 4).first).to match(/\Aby #{said(opens + 7)} /)
    expect(pages_on(opens + 8).first).to eq "should slip since #{said(opens + 7)}: test it"
    expect(pages_on(closes + 1).first).to eq "closed about #{said(closes)}"
  end
end
