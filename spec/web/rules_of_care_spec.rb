# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# The rulebook's pages of aftercare say when each task is asked for, and where.
RSpec.describe "Rules of aftercare on their pages" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { orchard }

  before { enter person(steward: here) }

  # @return [Array<Array(String, String)>] each task, and when it is asked for
  def rules(file)
    get "/o/#{here.slug}/rulebook/#{file}"
    Nokogiri::HTML(last_response.body).css("section[aria-label=Rules] tbody tr").map do |row|
      [row.at_css("th").text, row.css("td").first.text.gsub(/\s+/, " ").strip]
    end
  end

  def when_of(file, title) = rules(file).assoc(title).last

  it "says of a stripped trunk what waits for bark, and ends with it" do
    expect(when_of("repair", "Set the bridge"))
      .to eq "from the day to 150 days after bark slips, until bark closes at the latest; bridge it"
    expect(when_of("repair", "Strip the blossom"))
      .to start_with "from 7 days before to 40 days after bark slips; where half the girth or more is bare"
    expect(when_of("repair", "Set another for each that died"))
      .to start_with "from the day to 150 days after bark slips again, until bark closes at the latest"
    expect(when_of("repair", "Look under the cover"))
      .to eq "from 7 days to 21 days after it was covered, every 14 days until bark slips"
  end

  it "says of a graft what comes every year, until when, and on what" do
    expect(when_of("care", "See whether it lives"))
      .to eq "from 14 days before to 61 days after fruit sets in the second spring, every year for 2 years"
    expect(when_of("care", "Plan it again for spring"))
      .to eq "from 30 days before to 120 days after the winter after it was seen dead, every year for 2 years until " \
             "it is done; on a stub, until its limb is decided again, where its stub can be cut lower"
    expect(when_of("care", "Shade off")).to end_with "; on a stub or in the side of what stays, on a kind that keeps " \
                                                     "its leaves"
    expect(when_of("care", "The yearly look")).to end_with ", every year"
  end

  it "leaves no rule with a bare yes or no" do
    bare = %w[care repair].flat_map { |file| rules(file) }.select { |_, words| words.match?(/(; |, )(yes|no)\b/) }
    expect(bare).to eq []
  end
end
