# frozen_string_literal: true

# The leader, which is the trunk itself above a height: it has no bearing, and a tree has one that stands.
Sequel.migration do
  up do
    alter_table(:limbs) do
      add_column :leader, :boolean, null: false, default: false
      add_constraint(:leader_of_trunk, Sequel.lit("NOT leader OR parent_id IS NULL"))
    end
    run "CREATE UNIQUE INDEX limbs_one_leader ON limbs (tree_id) WHERE leader AND gone_on IS NULL AND hidden_at IS NULL"
  end

  down do
    alter_table(:limbs) { drop_column :leader }
  end
end
