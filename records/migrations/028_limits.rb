# frozen_string_literal: true

# What a column may hold, held by the database whatever way it is written: lengths of text, ranges of figures, and words
# where there are a few. Each rule says in its comment what is allowed; files that are brought in are checked by the
# same rules. Words that the rulebook owns (methods, kinds, materials) are held to their shape here.
Sequel.migration do
  no_signs = '[\u0001-\u001f\u007f-\u009f\u2028\u2029\u202a-\u202e\u2066-\u2069]'
  no_signs_but_lines = '[\u0001-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]'
  many_lines = %i[notes note purpose why against_reason origin damage conditions breakage lost_note undone_why trouble
                  permission source
                  weather_trouble left_to]
  shape = "^[a-z][a-z0-9-]{0,39}$"
  book_words = %i[technique wrap seal cover species school]
  words = {
    varieties: { pollen: %w[good poor none] },
    limbs: { straight: %w[straight bent crooked] }, bundles: { ends: %w[sealed trimmed], dip: %w[bleach none],
        packing: %w[damp evergreen dry-bag] },
    grafts: { bark_slip: %w[clean reluctant none] }, wounds: { bark_slip: %w[clean reluctant none],
        fixing: %w[pins bound wedged] },
    observations: { buds: %w[asleep swelling leafing dead], callus: %w[none some full], verdict: %w[took wait failed],
                    seal_state: %w[sound cracked gone], wrap_state: %w[sound loose biting] }
  }
  figures = {
    trees: { height_mm: 60_000, number: 1_000_000, planted_year: 1700..2200, x_m: -100_000..100_000,
             y_m: -100_000..100_000, latitude: -90..90, longitude: -180..180 },
    tallies: { season: 1700..2200, crop_kg: 5000, sticks_alive: 12, angle_deg: 180 },
    plan_limbs: { season: 1700..2200 }, plan_sites: { season: 1700..2200 },
    plans: { seasons: 1..20 }, wood_promises: { season: 1700..2200, sticks: 100_000 }, sticks: { number: 1..1000 },
    bridge_scions: { number: 1..1000 },
    bundles: { number: 1..100_000_000 }, store_readings: { celsius: -90..70 }, orchards: { reach_mm: 30_000 }
  }
  facts = %i[bridge_scions bundle_checks bundle_stays bundles crew_days crew_fixed grafts limbs observations orchards
             phenology_seen photos plan_limbs plan_sites plans scion_fates sites stick_locks sticks store_readings
             stores tallies tasks_done trees varieties weather_days wood_promises wound_margins wound_visits wounds]

  # Each rule as column => [what holds, in SQL; what is allowed, in words].
  rules = ->(table, column, type) do
    name = %("#{column}")
    if words.dig(table, column)
      next ["#{name} IN (#{words[table][column].map { |word| "'#{word}'" }.join(', ')})",
            "one of #{words[table][column].join(', ')}"]
    end

    case type
    when "text"
      next if %i[slug time_zone].include?(column)
      next ["#{name} ~ '#{shape}'", "a word of small letters, digits and dashes"] if book_words.include?(column)
      if many_lines.include?(column)
        next ["char_length(#{name}) <= 4000 AND #{name} !~ '#{no_signs_but_lines}'",
              "at most 4000 characters, none of them hidden"]
      end

      ["char_length(#{name}) <= 200 AND #{name} !~ '#{no_signs}'",
       "one line of at most 200 characters, none of them hidden"]
    when "integer", "numeric", "double precision"
      range = figures.dig(table, column)
      range = 0..range if range.is_a?(Integer)
      range ||= -30_000..30_000 if column.end_with?("_mm")
      range ||= -360..360 if column.end_with?("_deg")
      ["#{name} BETWEEN #{range.min} AND #{range.max}", "from #{range.min} to #{range.max}"] if range
    when "numeric[]"
      ["cardinality(#{name}) <= 60 AND -360 <= ALL (#{name}) AND 360 >= ALL (#{name})",
       "up to 60 bearings from -360 to 360"]
    when "jsonb"
      ["length(#{name}::text) <= 200000", "not more than 200 kB"]
    end
  end

  each_rule = ->(db, use) do
    facts.each do |table|
      db.schema(table).each do |column, about|
        next if %i[id orchard_id version client_key].include?(column)

        rule = rules.call(table, column, about[:db_type].sub(/\(.*\)/, ""))
        use.call(table, column, *rule) if rule
      end
    end
  end

  up do
    # Those there are already stay as they are; what is written from now on is looked at.
    each_rule.call(self, ->(table, column, rule, allowed) do
      run %(ALTER TABLE #{table} ADD CONSTRAINT "sane_#{column}" CHECK (#{rule}) NOT VALID)
      run %(COMMENT ON CONSTRAINT "sane_#{column}" ON #{table} IS '#{allowed}')
    end)
    run "COMMENT ON CONSTRAINT few_sticks ON grafts IS 'from 1 to 12'"
    %i[plan_limbs plan_sites].each { |table| run "COMMENT ON CONSTRAINT few_sticks ON #{table} IS 'from 1 to 12'" }

    # While a new orchard is written as a whole, nobody reads its care yet: each of its visits need not mark it.
    run <<~SQL
      CREATE OR REPLACE FUNCTION care_of_one() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        IF current_setting('vestry.new_orchard', true) = NEW.orchard_id::text THEN RETURN NULL; END IF;
        UPDATE cares SET valid_until = '-infinity' WHERE graft_id = NEW.graft_id;
        RETURN NULL;
      END $$;
    SQL
    run "ALTER TABLE bundles ENABLE TRIGGER bundle_number"
  end

  down do
    each_rule.call(self, ->(table, column,
                            *) { run %(ALTER TABLE #{table} DROP CONSTRAINT IF EXISTS "sane_#{column}") })
    run <<~SQL
      CREATE OR REPLACE FUNCTION care_of_one() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE cares SET valid_until = '-infinity' WHERE graft_id = NEW.graft_id;
        RETURN NULL;
      END $$;
    SQL
    run "ALTER TABLE bundles ENABLE ALWAYS TRIGGER bundle_number"
  end
end
