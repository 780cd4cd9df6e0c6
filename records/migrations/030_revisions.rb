# frozen_string_literal: true

# How often each table of an orchard was written, counted by triggers; and results that are dear to work out,
# stored under those counts.
Sequel.migration do
  # A line of history is written with what it tells of, and needs no counting of its own.
  of_orchard = %i[trees limbs sites plans plan_limbs plan_sites patterns varieties grafts observations tallies
                  tasks_done photos stores bundles bundle_checks bundle_stays sticks stick_locks store_readings
                  wood_promises weather_days phenology_seen crew_days crew_fixed begun_sheets wounds wound_margins
                  bridge_scions wound_visits scion_fates memberships invites api_tokens calendar_keys imports exports
                  care_runs letters door_log]

  up do
    run <<~SQL
      CREATE UNLOGGED TABLE derived (
        orchard_id integer NOT NULL REFERENCES orchards ON DELETE CASCADE,
        what text NOT NULL, day date NOT NULL, revision text NOT NULL, result jsonb NOT NULL,
        PRIMARY KEY (orchard_id, what, day));
      CREATE INDEX derived_day ON derived (day);

      CREATE TABLE revisions (
        orchard_id integer NOT NULL, area text NOT NULL, slot integer NOT NULL, number bigint NOT NULL,
        PRIMARY KEY (orchard_id, area, slot)) WITH (fillfactor = 50);

      -- Each connection has a slot of its own, so that none waits for another's transaction.
      CREATE FUNCTION count_revision() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          INSERT INTO revisions (orchard_id, area, slot, number)
            SELECT DISTINCT orchards.id, TG_TABLE_NAME::text, pg_backend_pid(), 1
              FROM changed JOIN orchards ON orchards.id = changed.orchard_id
            ON CONFLICT (orchard_id, area, slot) DO UPDATE SET number = revisions.number + 1;
          RETURN NULL;
        END $$;

      CREATE FUNCTION count_revision_of_orchard() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          INSERT INTO revisions (orchard_id, area, slot, number)
            SELECT DISTINCT id, 'orchards', pg_backend_pid(), 1 FROM changed
            ON CONFLICT (orchard_id, area, slot) DO UPDATE SET number = revisions.number + 1;
          RETURN NULL;
        END $$;
    SQL
    kinds = { insert: "NEW", update: "NEW", delete: "OLD" }
    of_orchard.each do |table|
      kinds.each do |kind, which|
        run <<~SQL
          CREATE TRIGGER revision_#{kind} AFTER #{kind} ON #{table} REFERENCING #{which} TABLE AS changed
            FOR EACH STATEMENT EXECUTE FUNCTION count_revision()
        SQL
      end
    end
    %i[insert update].each do |kind|
      run <<~SQL
        CREATE TRIGGER revision_#{kind} AFTER #{kind} ON orchards REFERENCING NEW TABLE AS changed
          FOR EACH STATEMENT EXECUTE FUNCTION count_revision_of_orchard()
      SQL
    end
    drop_table(:slip_forecasts)
  end

  down do
    run "DROP FUNCTION count_revision() CASCADE; DROP FUNCTION count_revision_of_orchard() CASCADE; " \
        "DROP TABLE revisions; DROP TABLE derived"
    create_table(:slip_forecasts) do
      foreign_key :orchard_id, :orchards, null: false
      String :species, null: false
      Date :for_day, null: false
      String :mark, null: false
      Float :threshold_dd, null: false
      Float :accumulated_dd
      Date :reached_on
      Date :p10
      Date :p50
      Date :p90
      String :basis, null: false
      primary_key %i[orchard_id species for_day]
    end
  end
end
