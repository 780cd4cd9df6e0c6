# frozen_string_literal: true

# What each graft needs, kept as reckoned until something changes it; what a visit may say besides;
# losses with their cause; calendars that can be read elsewhere; a letter a day.
Sequel.migration do
  up do
    alter_table(:observations) do
      add_column :stock_shoots, String
      add_column :pests, String
      add_column :snapped, TrueClass, null: false, default: false
      add_column :fruit, TrueClass, null: false, default: false
      add_constraint :known_stock_shoots, stock_shoots: %w[none some many]
      add_constraint :known_pests, pests: %w[none aphids caterpillars other]
    end

    alter_table(:grafts) do
      add_column :lost_on, Date
      add_column :lost_cause, String
      add_column :lost_note, String, text: true
      add_constraint :known_loss, lost_cause: %w[failed blown-out browsed strangled cut-off pest unknown]
      add_constraint(:loss_after_graft) { lost_on >= grafted_on }
      add_constraint(:loss_with_cause, Sequel.lit("(lost_on IS NULL) = (lost_cause IS NULL)"))
    end

    # One row a graft: how it stands, and until when what is kept of it holds.
    create_table(:cares) do
      Integer :graft_id, primary_key: true
      foreign_key :orchard_id, :orchards, null: false
      String :state
      Date :knit_on
      Date :reckoned_on
      Date :valid_until, null: false
      foreign_key %i[orchard_id graft_id], :grafts, key: %i[orchard_id id]
      index %i[orchard_id valid_until]
      index %i[orchard_id reckoned_on]
    end

    # Reckoned anew from the grafts as often as they change, so it is kept free of keys that would be
    # looked up for each of its many rows, and out of the log: after a crash it stands empty, and so
    # does the mark beside it, which says that it has to be reckoned again.
    create_table(:upkeep_mark, unlogged: true) { TrueClass :whole, primary_key: true }
    create_table(:upkeep, unlogged: true) do
      Integer :orchard_id, null: false
      Integer :graft_id, null: false
      String :key, null: false
      String :rule, null: false
      Date :opens_on, null: false
      Date :due_on, null: false
      Date :closes_on, null: false
      String :person, null: false
      String :row, null: false
      Integer :number, null: false
      String :tag, null: false
      index :graft_id
      index %i[orchard_id due_on row number tag], name: :upkeep_in_order
      index %i[orchard_id opens_on], include: %i[closes_on due_on person row], name: :upkeep_open
    end

    create_table(:care_runs) do
      foreign_key :orchard_id, :orchards, primary_key: true
      Integer :total, null: false
      Integer :done, null: false, default: 0
      DateTime :begun_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :ended_at
    end

    create_table(:calendar_keys) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      foreign_key :account_id, :accounts, null: false
      String :digest, null: false, unique: true
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :read_at
      DateTime :revoked_at
      index %i[account_id orchard_id]
    end

    create_table(:daily_letters) do
      foreign_key :orchard_id, :orchards, null: false
      foreign_key :account_id, :accounts, null: false
      Date :day, null: false
      primary_key %i[account_id orchard_id day]
    end

    alter_table(:memberships) { add_column :daily_letter, TrueClass, null: false, default: true }

    # Whatever changes a graft's facts makes what is kept of its care out of date, by whichever way the
    # change came.
    run <<~SQL
      CREATE FUNCTION care_begins() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        INSERT INTO cares (graft_id, orchard_id, valid_until) SELECT id, orchard_id, '-infinity' FROM fresh;
        -- An earlier graft on the same limb is history now.
        UPDATE cares SET valid_until = '-infinity' FROM fresh, grafts WHERE grafts.limb_id = fresh.limb_id
          AND cares.graft_id = grafts.id;
        RETURN NULL;
      END $$;
      CREATE TRIGGER care_begins AFTER INSERT ON grafts REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT
        EXECUTE FUNCTION care_begins();

      CREATE FUNCTION care_changes() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE cares SET valid_until = '-infinity' FROM fresh, grafts WHERE grafts.limb_id = fresh.limb_id
          AND cares.graft_id = grafts.id;
        RETURN NULL;
      END $$;
      CREATE TRIGGER care_changes AFTER UPDATE ON grafts REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT
        EXECUTE FUNCTION care_changes();

      CREATE FUNCTION care_of_graft_changes() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE cares SET valid_until = '-infinity' FROM fresh WHERE cares.graft_id = fresh.graft_id;
        RETURN NULL;
      END $$;

      CREATE FUNCTION care_of_limb_changes() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE cares SET valid_until = '-infinity' FROM fresh, grafts WHERE grafts.limb_id = fresh.id
          AND cares.graft_id = grafts.id;
        RETURN NULL;
      END $$;
      CREATE TRIGGER care_of_limb_changes AFTER UPDATE ON limbs REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT
        EXECUTE FUNCTION care_of_limb_changes();

      CREATE FUNCTION care_of_tree_changes() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE cares SET valid_until = '-infinity' FROM fresh, limbs, grafts
          WHERE limbs.tree_id = fresh.id AND grafts.limb_id = limbs.id AND cares.graft_id = grafts.id;
        RETURN NULL;
      END $$;
      CREATE TRIGGER care_of_tree_changes AFTER UPDATE ON trees REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT
        EXECUTE FUNCTION care_of_tree_changes();

      -- Weather and rules touch every graft that is still looked after.
      CREATE FUNCTION care_by_weather() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE cares SET valid_until = '-infinity' FROM grafts, (SELECT orchard_id, max(day) AS day FROM fresh
          WHERE NOT forecast GROUP BY orchard_id) AS come
          WHERE cares.orchard_id = come.orchard_id AND grafts.id = cares.graft_id
            AND grafts.grafted_on >= come.day - 700 AND cares.valid_until > '-infinity';
        RETURN NULL;
      END $$;
      CREATE TRIGGER care_by_weather_in AFTER INSERT ON weather_days REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT
        EXECUTE FUNCTION care_by_weather();
      CREATE TRIGGER care_by_weather_up AFTER UPDATE ON weather_days REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT
        EXECUTE FUNCTION care_by_weather();

      CREATE FUNCTION care_by_rules() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE cares SET valid_until = '-infinity' FROM fresh, gone
          WHERE fresh.id = gone.id AND cares.orchard_id = fresh.id
            AND (fresh.school, fresh.overrides, fresh.latitude) IS DISTINCT
              FROM (gone.school, gone.overrides, gone.latitude);
        RETURN NULL;
      END $$;
      CREATE TRIGGER care_by_rules AFTER UPDATE ON orchards REFERENCING NEW TABLE AS fresh OLD TABLE AS gone
        FOR EACH STATEMENT EXECUTE FUNCTION care_by_rules();
    SQL
    %w[observations tasks_done tallies].each do |table|
      run "CREATE TRIGGER care_seen AFTER INSERT ON #{table} REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT " \
          "EXECUTE FUNCTION care_of_graft_changes()"
      run "CREATE TRIGGER care_seen_again AFTER UPDATE ON #{table} REFERENCING NEW TABLE AS fresh FOR EACH " \
          "STATEMENT EXECUTE FUNCTION care_of_graft_changes()"
    end
    run "INSERT INTO cares (graft_id, orchard_id, valid_until) SELECT id, orchard_id, '-infinity' FROM grafts"
  end

  down do
    %w[observations tasks_done tallies].each do |table|
      run "DROP TRIGGER care_seen ON #{table}; DROP TRIGGER care_seen_again ON #{table}"
    end
    run "DROP TRIGGER care_begins ON grafts; DROP TRIGGER care_changes ON grafts; DROP TRIGGER care_of_limb_changes " \
        "ON limbs; DROP TRIGGER care_of_tree_changes ON trees"
    run "DROP TRIGGER care_by_weather_in ON weather_days; DROP TRIGGER care_by_weather_up ON weather_days; DROP " \
        "TRIGGER care_by_rules ON orchards"
    run "DROP FUNCTION care_begins(), care_changes(), care_of_graft_changes(), care_of_limb_changes(), " \
        "care_of_tree_changes(), care_by_weather(), care_by_rules()"
    alter_table(:memberships) { drop_column :daily_letter }
    drop_table(:daily_letters, :calendar_keys, :care_runs, :upkeep, :upkeep_mark, :cares)
    alter_table(:grafts) { %i[lost_on lost_cause lost_note].each { |name| drop_column name } }
    alter_table(:observations) { %i[stock_shoots pests snapped fruit].each { |name| drop_column name } }
  end
end
