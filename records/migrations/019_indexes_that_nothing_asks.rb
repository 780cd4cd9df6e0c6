# frozen_string_literal: true

# Indexes that another one serves as well, or that no question uses: each row written would pay for them.
Sequel.migration do
  up do
    run "DROP INDEX grafts_grafter_forgiving, trees_by_species, limbs_tree_id_index"
  end

  down do
    run "CREATE INDEX grafts_grafter_forgiving ON grafts USING gin (grafter gin_trgm_ops)"
    run "CREATE INDEX trees_by_species ON trees (orchard_id, species)"
    run "CREATE INDEX limbs_tree_id_index ON limbs (tree_id)"
  end
end
