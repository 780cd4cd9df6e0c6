# frozen_string_literal: true

# What a lost graft needs follows from which plan of its tree is in use, and from the days on which bark was seen to
# lift no longer, whoever wrote them and how.
Sequel.migration do
  up do
    run <<~SQL
      CREATE FUNCTION care_by_version() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          UPDATE care_states SET valid_until = '-infinity' FROM plan_limbs, grafts
            WHERE plan_limbs.plan_id = NEW.id AND grafts.limb_id = plan_limbs.limb_id
              AND care_states.graft_id = grafts.id;
          RETURN NULL;
        END $$;
      CREATE TRIGGER care_by_version AFTER UPDATE ON plans FOR EACH ROW
        WHEN (OLD.superseded_at IS DISTINCT FROM NEW.superseded_at OR OLD.hidden_at IS DISTINCT FROM NEW.hidden_at)
        EXECUTE FUNCTION care_by_version();

      CREATE FUNCTION care_by_closing() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
          UPDATE care_states SET valid_until = '-infinity'
            WHERE orchard_id = NEW.orchard_id AND valid_until > '-infinity';
          RETURN NULL;
        END $$;
      CREATE TRIGGER care_by_closing AFTER INSERT ON phenology_seen FOR EACH ROW WHEN (NEW.closed)
        EXECUTE FUNCTION care_by_closing();
      CREATE TRIGGER care_by_closing_again AFTER UPDATE ON phenology_seen FOR EACH ROW WHEN (OLD.closed OR NEW.closed)
        EXECUTE FUNCTION care_by_closing();
    SQL
  end

  down do
    run "DROP FUNCTION care_by_version() CASCADE; DROP FUNCTION care_by_closing() CASCADE"
  end
end
