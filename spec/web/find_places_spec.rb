# frozen_string_literal: true

require "rack/test"

RSpec.describe Vestry::Web::FindPlaces do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  def titles(words) = described_class.of(words).map(&:title)

  it "finds a page by its title, and by what one does there" do
    expect(titles("nursery")).to eq ["Order from elsewhere"]
    expect(titles("Password")).to eq ["Your sign-in"]
    expect(titles("sheep")).to eq ["Stripped trunks"]
    expect(titles("cleft")).to eq ["Cleft graft"]
    expect(titles("latitude")).to eq ["Latitude and longitude"]
    expect([titles("xx"), titles(""), titles("zzz")]).to eq [[], [], []]
  end

  it "names pages that are there" do
    here = orchard
    enter person("Orla Finch", steward: here)
    wrong = described_class.all.map(&:path).uniq { |station, path| [station, path.to_s[/\A[^#]*/]] }
      .reject do |station, path|
        get(station ? "/o/#{here.slug}/#{station}#{path[/\A[^#]*/]}" : path)
        [200, 302].include?(last_response.status)
      end
    expect(wrong).to eq []
  end


  it "looks for names of two letters, and for none of one" do
    here = orchard
    kind = variety(here, "Ax")
    found = ->(words) { Vestry::Records::Finder.new(here).find(words).varieties.to_a }
    expect([found["Ax"], found["A"]]).to eq [[kind], []]
  end
end
