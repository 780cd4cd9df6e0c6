# frozen_string_literal: true

# What the database itself refuses: a task kept twice for a graft, a limb's tag that stands twice however it is
# written, figures that are no numbers, days past all measure. Bundles are numbered orchard by orchard.
Sequel.migration do
  # Rows reckoned from others may say "since ever" and "for good".
  reckoned = %i[cares upkeep care_runs slip_forecasts history]
  facts = ->(db) do
    db.tables.reject { |table| reckoned.include?(table) || table.to_s.start_with?("que_") || table == :schema_info }
      .select { |table| table == :orchards || db.schema(table).any? { |column, _| column == :orchard_id } }
  end
  figure = "BETWEEN -1e9 AND 1e9"
  kinds = { "date" => "BETWEEN DATE '1700-01-01' AND DATE '2200-12-31'", "numeric" => figure,
            "double precision" => figure }
  each_figure = ->(db, use) do
    facts.call(db).sort.each do |table|
      db.schema(table).each do |column, about|
        kind = kinds[about[:db_type].sub(/\(.*\)/, "")]
        use.call(table, column, kind) if kind
      end
    end
  end

  up do
    # What stands twice is reckoned anew.
    twice = "SELECT graft_id FROM upkeep GROUP BY graft_id, key HAVING count(*) > 1"
    run "UPDATE cares SET valid_until = '-infinity' WHERE graft_id IN (#{twice})"
    run "DELETE FROM upkeep WHERE graft_id IN (#{twice})"
    alter_table(:upkeep) do
      add_index %i[graft_id key], unique: true, name: :upkeep_once
      drop_index :graft_id
    end

    # A second of two alike is told apart by its number.
    run <<~SQL
      UPDATE limbs SET tag = limbs.tag || '-' || limbs.id FROM limbs AS first
        WHERE first.tree_id = limbs.tree_id AND upper(first.tag) = upper(limbs.tag) AND first.id < limbs.id
    SQL
    add_index :limbs, [:tree_id, Sequel.function(:upper, :tag)], unique: true, name: :limbs_one_tag

    # Those there are already stay as they are; what is written from now on is looked at.
    each_figure.call(self, ->(table, column, kind) do
      run %(ALTER TABLE #{table} ADD CONSTRAINT "plain_#{column}" CHECK ("#{column}" #{kind}) NOT VALID)
    end)
    believable = "min_c >= -90 AND max_c <= 70 AND min_c <= max_c " \
                 "AND (rain_mm IS NULL OR rain_mm BETWEEN 0 AND 2000) " \
                 "AND (gust_ms IS NULL OR gust_ms BETWEEN 0 AND 150)"
    few = "sticks IS NULL OR sticks BETWEEN 1 AND 12"
    { weather_days: [:believable, believable], grafts: [:few_sticks, "sticks BETWEEN 1 AND 12"],
      plan_limbs: [:few_sticks, few], plan_sites: [:few_sticks, few] }.each do |table, (name, rule)|
      run "ALTER TABLE #{table} ADD CONSTRAINT #{name} CHECK (#{rule}) NOT VALID"
    end

    # What a program was answered under a key of its own.
    create_table(:repeated_requests) do
      foreign_key :account_id, :accounts, null: false
      String :key, null: false
      String :digest, null: false
      String :body, text: true
      Integer :status
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      primary_key %i[account_id key]
    end

    # A day's sheet on which work was begun: its stubs stay on it, whatever a later forecast says.
    create_table(:begun_sheets) do
      foreign_key :orchard_id, :orchards, null: false
      Date :day, null: false
      Integer :plan_limb_id, null: false
      primary_key %i[plan_limb_id day]
      foreign_key %i[orchard_id plan_limb_id], :plan_limbs, key: %i[orchard_id id]
      index %i[orchard_id day]
    end

    # A letter belongs to an orchard, whose stewards may read it, or to its reader alone.
    alter_table(:letters) { add_foreign_key :orchard_id, :orchards }

    alter_table(:bundles) { add_column :number, Integer }
    run <<~SQL
      UPDATE bundles SET number = counted.place
        FROM (SELECT id, row_number() OVER (PARTITION BY orchard_id ORDER BY id) AS place FROM bundles) AS counted
        WHERE counted.id = bundles.id
    SQL
    alter_table(:bundles) { add_unique_constraint %i[orchard_id number], name: :bundles_one_number }
    run <<~SQL
      CREATE FUNCTION bundle_number() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        IF NEW.number IS NULL THEN
          -- Two made at once wait for each other.
          PERFORM pg_advisory_xact_lock(1, NEW.orchard_id);
          SELECT coalesce(max(number), 0) + 1 INTO NEW.number FROM bundles WHERE orchard_id = NEW.orchard_id;
        END IF;
        RETURN NEW;
      END $$;
      CREATE TRIGGER bundle_number BEFORE INSERT ON bundles FOR EACH ROW EXECUTE FUNCTION bundle_number();
      -- Also where many rows come in at once and are not followed to those they point at.
      ALTER TABLE bundles ENABLE ALWAYS TRIGGER bundle_number;
    SQL
  end

  down do
    run "DROP TRIGGER bundle_number ON bundles; DROP FUNCTION bundle_number()"
    alter_table(:bundles) { drop_column :number }
    alter_table(:letters) { drop_column :orchard_id }
    drop_table(:repeated_requests, :begun_sheets)
    %w[grafts plan_limbs plan_sites].each { |table| run "ALTER TABLE #{table} DROP CONSTRAINT few_sticks" }
    run "ALTER TABLE weather_days DROP CONSTRAINT believable"
    each_figure.call(self, ->(table, column, _) do
      run %(ALTER TABLE #{table} DROP CONSTRAINT IF EXISTS "plain_#{column}")
    end)
    drop_index :limbs, nil, name: :limbs_one_tag
    alter_table(:upkeep) do
      add_index :graft_id
      drop_index %i[graft_id key], name: :upkeep_once
    end
  end
end
