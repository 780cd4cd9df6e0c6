# frozen_string_literal: true

# What a lost graft needs follows from its limb's plan too: once it is decided to be worked again, nothing more.
Sequel.migration do
  up do
    { "care_planned" => "INSERT", "care_planned_again" => "UPDATE" }.each do |name, change|
      run "CREATE TRIGGER #{name} AFTER #{change} ON plan_limbs REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT " \
          "EXECUTE FUNCTION care_changes()"
    end
    run "UPDATE care_states SET valid_until = '-infinity' FROM grafts, plan_limbs " \
        "WHERE care_states.graft_id = grafts.id AND plan_limbs.limb_id = grafts.limb_id"
  end

  down do
    run "DROP TRIGGER care_planned ON plan_limbs; DROP TRIGGER care_planned_again ON plan_limbs"
  end
end
