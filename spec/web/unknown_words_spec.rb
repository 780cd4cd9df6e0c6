# frozen_string_literal: true

require "rack/test"

# A word that the rulebook does not know stands in the records: written past every form, or by a rulebook that knew
# more.
# The database holds it to its shape alone.
RSpec.describe "A word that nobody knows" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  OWNED_WORDS = { grafts: %i[technique wrap seal cover], plan_limbs: %i[technique], plans: %i[school],
                  wounds: %i[wrap seal],
             orchards: %i[school], trees: %i[species] }.freeze
  MAIN_PAGES = %w[survey plan wood wood/match slip slip/crew graft tend tally tally/took repair history files].freeze

  # Where in the application it broke.
  def own_line(error)
    error.backtrace.find { |line| line.start_with?("#{Vestry::ROOT}/") && !line.match?(%r{/(vendor|spec)/}) }.to_s
  end

  # Statuses by page, or what broke it.
  def look(pages)
    pages.to_h do |page|
      Vestry::DB[:door_counts].delete
      [page, get("/o/#{here.slug}/#{page}").status]
    rescue StandardError => e
      [page, "#{e.class}: #{e.message[0, 80]} #{own_line(e)}"]
    end
  end

  before { enter person("Orla Finch", steward: here) }

  OWNED_WORDS.each do |table, columns|
    it "leaves every page standing as #{columns.join(', ')} of #{table}" do
      rows = table == :orchards ? Vestry::DB[table].where(id: here.id) : Vestry::DB[table].where(orchard_id: here.id)
      columns.each do |column|
        # Those that have a word first; none stands where what is left out has a meaning.
        latest = rows.order(Sequel.case({ { column => nil } => 1 }, 0), Sequel.desc(:id)).select_map(:id).first(3)
        expect(latest).not_to be_empty
        Vestry::DB[table].where(id: latest).update(column => "weld")
      end
      expect(look(MAIN_PAGES).reject { |_, status| status == 200 }).to eq({})
    end
  end

  it "leaves every page standing as an orchard's time zone" do
    allow(Vestry::Settings).to receive(:today).and_return(nil)
    here.update(time_zone: "Mars/Base")
    expect(look(MAIN_PAGES).reject { |_, status| status == 200 }).to eq({})
  end

  it "is held out by the database where it is not even the shape of one" do
    ["Weld It", "<b>", "", "x" * 50, "a\nb"].each do |word|
      expect { Vestry::DB[:grafts].where(orchard_id: here.id).update(wrap: word) }
        .to raise_error(Sequel::CheckConstraintViolation)
    end
  end
end
