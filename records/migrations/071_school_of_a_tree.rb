# frozen_string_literal: true

# A tree is worked by its plan's school, or by the orchard's where its plan names none. Plans were begun with the name
# of the school that the orchard had, whoever chose it; those that still agree follow the orchard from now on.
Sequel.migration do
  up do
    run <<~SQL
      UPDATE plans SET school = NULL FROM orchards
        WHERE orchards.id = plans.orchard_id AND plans.superseded_at IS NULL AND plans.school = orchards.school;

      CREATE FUNCTION care_by_tree_school() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          UPDATE care_states SET valid_until = '-infinity' FROM limbs, grafts
            WHERE limbs.tree_id = NEW.tree_id AND grafts.limb_id = limbs.id AND care_states.graft_id = grafts.id;
          RETURN NULL;
        END $$;
      CREATE TRIGGER care_by_tree_school AFTER INSERT ON plans FOR EACH ROW WHEN (NEW.school IS NOT NULL)
        EXECUTE FUNCTION care_by_tree_school();
      CREATE TRIGGER care_by_tree_school_again AFTER UPDATE ON plans FOR EACH ROW
        WHEN (OLD.school IS DISTINCT FROM NEW.school OR
              (OLD.superseded_at IS DISTINCT FROM NEW.superseded_at AND OLD.school IS NOT NULL))
        EXECUTE FUNCTION care_by_tree_school();
    SQL
  end

  down do
    run "DROP FUNCTION care_by_tree_school() CASCADE"
    run "UPDATE plans SET school = orchards.school FROM orchards " \
        "WHERE orchards.id = plans.orchard_id AND plans.school IS NULL"
  end
end
