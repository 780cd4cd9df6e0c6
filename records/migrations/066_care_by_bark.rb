# frozen_string_literal: true

# Until when a dead graft can be made again follows from its own tree's bark: from what a look says of it, and from a
# graft under which it lifted. What a look that says "no longer lifts" teaches of the kind, care_by_closing marks.
Sequel.migration do
  up do
    run <<~SQL
      -- Locked in one order, so that two who work in one tree do not wait for each other; and whatever they say now, so
      -- that what is being reckoned is marked once it is.
      CREATE FUNCTION care_of_tree(integer) RETURNS void LANGUAGE sql AS $$
        UPDATE care_states SET valid_until = '-infinity' FROM
          (SELECT graft_id FROM care_states JOIN grafts ON grafts.id = care_states.graft_id
             JOIN limbs ON limbs.id = grafts.limb_id
             WHERE limbs.tree_id = $1
             ORDER BY graft_id FOR UPDATE OF care_states) AS own
          WHERE care_states.graft_id = own.graft_id
      $$;

      CREATE FUNCTION care_by_bark() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          IF current_setting('vestry.new_orchard', true) = NEW.orchard_id::text THEN RETURN NULL; END IF;
          PERFORM care_of_tree(NEW.tree_id);
          IF TG_OP = 'UPDATE' AND OLD.tree_id <> NEW.tree_id THEN PERFORM care_of_tree(OLD.tree_id); END IF;
          RETURN NULL;
        END $$;
      CREATE TRIGGER care_by_bark AFTER INSERT ON phenology_seen FOR EACH ROW
        WHEN (NEW.slipping IS NOT NULL) EXECUTE FUNCTION care_by_bark();
      CREATE TRIGGER care_by_bark_again AFTER UPDATE ON phenology_seen FOR EACH ROW
        WHEN (OLD.slipping IS NOT NULL OR NEW.slipping IS NOT NULL) EXECUTE FUNCTION care_by_bark();

      CREATE FUNCTION care_by_lifting() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          IF current_setting('vestry.new_orchard', true) = NEW.orchard_id::text THEN RETURN NULL; END IF;
          PERFORM care_of_tree(tree_id) FROM limbs WHERE id = NEW.limb_id;
          RETURN NULL;
        END $$;
      CREATE TRIGGER care_by_lifting AFTER INSERT ON grafts FOR EACH ROW
        WHEN (NEW.bark_slip = 'clean') EXECUTE FUNCTION care_by_lifting();
      CREATE TRIGGER care_by_lifting_again AFTER UPDATE ON grafts FOR EACH ROW
        WHEN (OLD.bark_slip = 'clean' OR NEW.bark_slip = 'clean') EXECUTE FUNCTION care_by_lifting();
    SQL
  end

  down do
    run "DROP FUNCTION care_by_lifting() CASCADE; DROP FUNCTION care_by_bark() CASCADE; " \
        "DROP FUNCTION care_of_tree(integer)"
  end
end
