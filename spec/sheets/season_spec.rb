# frozen_string_literal: true

require "pdf-reader"
require "stringio"

RSpec.describe Vestry::Sheets::SeasonPaper, :database do
  let(:words) do
    Class.new { include Vestry::Web::Helpers::Words; include Vestry::Web::Sentences; attr_accessor :orchard }.new
      .tap do |each|
      each.orchard = here
    end
  end
  let!(:here) { demo }

  def read(season, size: "a4")
    PDF::Reader.new(StringIO.new(described_class.new(here, World::TODAY, season, words, size: size).pdf))
  end

  it "tells the season on paper, tree by tree, with what was lost" do
    report = read(2025)
    text = report.pages.map(&:text).join(" ").gsub(/\s+/, " ")
    expect(text).to include("7 stubs were grafted on 3 trees", "Sticks dry as tinder",
                            "A2 C, Skylark Russet: blown out in August", "grew 1.12 m; stub 50 % closed")
    expect(text.delete(" ")).to include("Only7werecountedsofar")
    expect(report.pages.last.raw_content).to match(/ c\n/)
  end

  it "takes in stripped trunks, and says so where nothing was done" do
    expect(read(2026).pages.map(&:text).join(" ")).to match(/C10:\s+94 % bare, bridged; holds, 8 of 9 scions live/)
    expect(read(2019, size: "letter").pages.first.text).to include("Nothing was grafted in this season.")
  end
end
