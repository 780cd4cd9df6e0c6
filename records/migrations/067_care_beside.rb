# frozen_string_literal: true

# What a dead graft needs follows from whether another lives on its stub: a visit or a count marks all on its limb. And
# what is being reckoned while bark is seen to lift no longer is waited for, and marked after it.
Sequel.migration do
  up do
    run <<~SQL
      CREATE FUNCTION care_of_limb(integer) RETURNS void LANGUAGE sql AS $$
        UPDATE care_states SET valid_until = '-infinity' FROM
          (SELECT care_states.graft_id FROM grafts AS mine JOIN grafts ON grafts.limb_id = mine.limb_id
             JOIN care_states ON care_states.graft_id = grafts.id
             WHERE mine.id = $1 ORDER BY care_states.graft_id FOR UPDATE OF care_states) AS own
          WHERE care_states.graft_id = own.graft_id
      $$;

      CREATE OR REPLACE FUNCTION care_of_one() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          IF current_setting('vestry.new_orchard', true) = NEW.orchard_id::text THEN RETURN NULL; END IF;
          PERFORM care_of_limb(NEW.graft_id);
          RETURN NULL;
        END $$;

      CREATE OR REPLACE FUNCTION care_of_graft_changes() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          PERFORM care_of_limb(graft_id) FROM (SELECT DISTINCT graft_id FROM fresh WHERE graft_id IS NOT NULL
            ORDER BY graft_id) AS changed;
          RETURN NULL;
        END $$;

      CREATE OR REPLACE FUNCTION care_by_closing() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          PERFORM pg_advisory_xact_lock_shared(2, NEW.orchard_id);
          UPDATE care_states SET valid_until = '-infinity'
            WHERE orchard_id = NEW.orchard_id AND valid_until > '-infinity';
          RETURN NULL;
        END $$;
    SQL
  end

  down do
    run <<~SQL
      CREATE OR REPLACE FUNCTION care_of_one() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          IF current_setting('vestry.new_orchard', true) = NEW.orchard_id::text THEN RETURN NULL; END IF;
          UPDATE care_states SET valid_until = '-infinity' WHERE graft_id = NEW.graft_id;
          RETURN NULL;
        END $$;

      CREATE OR REPLACE FUNCTION care_of_graft_changes() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          UPDATE care_states SET valid_until = '-infinity' FROM fresh WHERE care_states.graft_id = fresh.graft_id;
          RETURN NULL;
        END $$;

      CREATE OR REPLACE FUNCTION care_by_closing() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          UPDATE care_states SET valid_until = '-infinity'
            WHERE orchard_id = NEW.orchard_id AND valid_until > '-infinity';
          RETURN NULL;
        END $$;
      DROP FUNCTION care_of_limb(integer);
    SQL
  end
end
