# frozen_string_literal: true

require "rack/test"

# One door for values: what is no plain number or day comes in nowhere, and the database holds it out as well.
RSpec.describe "Values that are none" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { orchard }
  let!(:made) { graft(limb(tree(here))) }

  DAYS = %w[now today yesterday tomorrow infinity -infinity epoch 01.05.2026 03/04/2026 05/01/26 2026-02-30 0001-01-01
            9999-01-01 20260501].freeze
  NUMBERS = %w[NaN Infinity -Infinity 1e400 1_000 0x10 1e99].freeze

  it "are refused in a weather file with line and column, and nothing is kept" do
    refused = (DAYS.map { |day| "day,min_c,max_c\n2026-05-01,3,9\n#{day},4,12\n" } +
               NUMBERS.map { |number| "day,min_c,max_c\n2026-05-01,3,9\n2026-05-02,#{number},12\n" }).map do |text|
      Vestry::Deeds::KeepWeather.read_file(here, text, by: "Orla Finch")
      text
    rescue Vestry::Deeds::Refused => e
      e.errors[:file].first[/\Aline \d+, column “(day|min_c)”/]
    end
    expect(refused.uniq).to match_array ["line 3, column “day”", "line 3, column “min_c”"]
    expect(Vestry::DB[:weather_days].where(orchard_id: here.id).count).to eq 0
  end

  it "are refused by the database in every table of facts" do
    bad = { weather_days: [{ day: Date.new(2026, 5, 1), min_c: Float::NAN, max_c: 3.0 },
                           { day: Date.new(2026, 5, 1), min_c: 1.0, max_c: Float::INFINITY },
                           { day: Sequel.lit("'infinity'::date"), min_c: 1.0, max_c: 2.0 },
                           { day: Date.new(2026, 5, 1), min_c: 9.0, max_c: 2.0 }] }
    bad[:weather_days].each do |row|
      expect { Vestry::DB[:weather_days].insert(row.merge(orchard_id: here.id)) }
        .to raise_error(Sequel::CheckConstraintViolation)
    end
    changes = [[:limbs, { girth_mm: Sequel.lit("'NaN'::numeric") }],
               [:limbs, { surveyed_on: Sequel.lit("'infinity'::date") }], [:trees, { x_m: Float::NAN }],
               [:grafts, { stub_mm: Sequel.lit("'NaN'::numeric") }], [:grafts, { sticks: 2_147_483_647 }],
               [:orchards, { latitude: Float::NAN }]]
    changes.each do |table, values|
      expect { Vestry::DB[table].update(values) }.to raise_error(Sequel::CheckConstraintViolation)
    end
  end

  it "are refused by the interface for programs, whatever a date looks like" do
    key = Vestry::Records::ApiToken.issue(person("Hanna Sorrel", steward: here), "a script")
    header "Authorization", "Bearer #{key}"
    answers = ["May 5", "2026-W20-1", "18.05.2026", "today", "2026-138"].map do |day|
      post "/api/orchards/#{here.slug}/grafts/#{made.id}/visits", JSON.generate(seen_on: day, buds: "asleep")
      [last_response.status, JSON.parse(last_response.body)["errors"]]
    end
    expect(answers).to all(eq([422, { "seen_on" => ["is a day, such as 2026-05-18"] }]))
    post "/api/orchards/#{here.slug}/grafts/#{made.id}/visits", JSON.generate(seen_on: "2026-05-18", buds: "asleep")
    expect(last_response.status).to eq 201
  end

  it "leave every page standing, where such a row stood there before" do
    Vestry::DB.run("ALTER TABLE weather_days DROP CONSTRAINT believable; ALTER TABLE weather_days DROP CONSTRAINT " \
                   "plain_max_c")
    Vestry::DB[:weather_days].insert(orchard_id: here.id, day: World::TODAY - 1, min_c: 3.0, max_c: Float::NAN)
    enter person("Orla Finch", steward: here)
    statuses = %w[survey plan wood slip graft tend tally files history].to_h do |station|
      [station, get("/o/#{here.slug}/#{station}").status]
    end
    expect(statuses.reject { |_, status| status == 200 }).to eq({})
  ensure
    Vestry::DB[:weather_days].delete
    Vestry::DB.run("ALTER TABLE weather_days ADD CONSTRAINT plain_max_c CHECK (max_c BETWEEN -1e9 AND 1e9) NOT " \
                   "VALID; ALTER TABLE weather_days ADD CONSTRAINT believable CHECK (min_c >= -90 AND max_c <= 70 " \
                   "AND min_c <= max_c AND (rain_mm IS NULL OR rain_mm BETWEEN 0 AND 2000) AND (gust_ms IS NULL OR " \
                   "gust_ms BETWEEN 0 AND 150)) NOT VALID")
  end
end
