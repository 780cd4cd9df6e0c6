# frozen_string_literal: true

# The latest graft on a limb is the first along an index, and not sorted for.
Sequel.migration do
  up do
    run "CREATE INDEX grafts_by_limb ON grafts (limb_id, grafted_on, id)"
    run "DROP INDEX grafts_limb_id_index"
  end

  down do
    run "CREATE INDEX grafts_limb_id_index ON grafts (limb_id)"
    run "DROP INDEX grafts_by_limb"
  end
end
