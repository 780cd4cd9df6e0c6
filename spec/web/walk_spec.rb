# frozen_string_literal: true

require "nokogiri"
require "rack/test"

RSpec.describe "The walk" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  it "says how many tasks are due besides those of the walk, and does not call all of it done" do
    here = demo
    allow(Vestry::Outside::Clock).to receive(:today).and_return(Date.new(2026, 6, 20))
    enter person(steward: here)
    agenda = Vestry::Records::Agenda.new(here, Date.new(2026, 6, 20))
    expect([agenda.due_count, agenda.due.size]).to eq [88, 64]
    get "/o/#{here.slug}/tend/stops"
    expect(last_response.body).to include('data-more="24"', "88 tasks", "24 tasks are due after these.")
    expect(last_response.body).not_to include "Every task that is due is done"
    get "/o/#{here.slug}/tend"
    expect(last_response.body.squeeze(" \n")).to include(", and 24 tasks more after these")
  end

  it "goes on to the stop that comes after" do
    here = demo
    enter person(steward: here)
    get "/o/#{here.slug}/tend"
    seen = Array.new(3) do
      page = Nokogiri::HTML(last_response.body)
      on = page.css("a[data-swap=main]").find { |link| link.text.start_with?("On to") }
      get on["href"]
      [page.at_css("main").text[/Stop (\d+) of/, 1].to_i, on.text.delete_prefix("On to ").strip,
       Nokogiri::HTML(last_response.body).at_css("main").text[/Stop (\d+) of/, 1].to_i]
    end
    expect(seen.map { |from, _, to| to - from }).to eq [1, 1, 1]
    expect(seen.map { |_, label, _| label }.uniq.size).to eq 3
  end

  it "says how long a new shoot is to be, by the kinds on the row" do
    here = orchard(school: "covered-inlay")
    tree(here, row: "W", species: "walnut")
    tree(here, row: "W", species: "pear")
    tree(here, row: "A", species: "apple")
    enter person(steward: here)
    get "/o/#{here.slug}/slip/walk", row: "W"
    said = last_response.body[%r{The school's sign.*?</p>}m].gsub(/<[^>]+>/, "").squeeze(" \n").tr("\n", " ")
    expect(said).to match(/walnut 75 mm/).and match(/pear 20 mm/)
    expect(said).not_to include "apple"
    here.update(school: "waxed-rind")
    get "/o/#{here.slug}/slip/walk", row: "W"
    expect(last_response.body).not_to include "75 mm"
  end

  it "sends nobody to bark that cannot lift yet, or lifts no longer" do
    here = orchard
    [%w[apple A], %w[apple A]].each { |species, row| tree(here, row: row, species: species) }
    enter person(steward: here)
    said = lambda do |day|
      allow(Vestry::Outside::Clock).to receive(:today).and_return(Date.parse(day))
      get "/o/#{here.slug}/slip/walk", row: "A"
      Nokogiri::HTML(last_response.body).at_css("h1").text
    end
    expect(said["2026-01-10"]).to match(/\ARow A: bark is not likely to lift before \d+ April; walk it/)
    expect(said["2026-05-10"]).to eq "Row A: 2 trees not seen to slip yet; begin with A1."
    expect(said["2026-08-10"]).to eq "Row A: bark lifts no longer; 2 trees were never seen to slip this year."
    Vestry::Deeds::SeeStage.call(here.trees.first, stage: "blossom", slipping: true, on: Date.new(2026, 5, 9),
                                                   today: Date.new(2026, 8, 10), by: "Orla")
    expect(said["2026-08-10"]).to eq "Row A: bark lifts no longer; 1 tree was never seen to slip this year."
    expect(said["2026-05-10"]).to eq "Row A: 1 tree not seen to slip yet; begin with A2."
  end

  it "begins a row where the spring's page does: with a tree on which a stub waits" do
    here = demo
    enter person("Orla Finch", steward: here)
    line = lambda do |page|
      get "/o/maunder-hill/slip#{page}"
      Nokogiri::HTML(last_response.body).at_css("h1").text
    end
    expect([line[""], line["/walk?row=B"], line["/walk?row=A"]])
      .to match [include("test the bark of A6, B5, B6, C1 and C2"), end_with("begin with B5."),
                 end_with("begin with A6.")]
    expect(Nokogiri::HTML(last_response.body).css(".tree-walk h2").first.text).to start_with "A6"
  end

  it "says on the pages that rest on it from when on the weather is missing" do
    here = demo
    enter person("Orla Finch", steward: here)
    said = lambda do |page|
      get "/o/maunder-hill/slip#{page}"
      Nokogiri::HTML(last_response.body).at_css("main").text.squeeze(" \n").scan(/The weather is known[^.]*\./)
    end
    expect([said[""], said["/crew"], said["/weather"]]).to eq [[], [], ["The weather is known to 17 May."]]
    Vestry::DB[:weather_days].where { day > Date.new(2026, 4, 20) }.delete
    late = ["The weather is known only to 20 April: forecasts rest on past years since then."]
    expect([said[""], said["/crew"], said["/weather"]]).to eq [late] * 3
  end
end
