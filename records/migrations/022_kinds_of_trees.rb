# frozen_string_literal: true

# A look at a tree's bark says something else once the tree is written down as of another kind: it counts
# as changed with it.
Sequel.migration do
  up do
    run <<~SQL
      CREATE FUNCTION looks_follow_tree() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE phenology_seen SET version = version + 1 WHERE tree_id = NEW.id AND orchard_id = NEW.orchard_id;
        RETURN NULL;
      END $$;
      CREATE TRIGGER looks_follow_tree AFTER UPDATE OF species ON trees FOR EACH ROW WHEN (OLD.species IS DISTINCT
        FROM NEW.species) EXECUTE FUNCTION looks_follow_tree();
    SQL
  end

  down do
    run "DROP TRIGGER looks_follow_tree ON trees; DROP FUNCTION looks_follow_tree()"
  end
end
