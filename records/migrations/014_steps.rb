# frozen_string_literal: true

# What lists are made of in great orchards: the kinds that stand, who grafted, what was lost.
Sequel.migration do
  change do
    alter_table(:trees) { add_index %i[orchard_id species], name: :trees_by_species }
    alter_table(:grafts) { add_index %i[orchard_id grafter grafted_on], name: :grafts_by_grafter }
    alter_table(:grafts) do
      add_index %i[orchard_id lost_cause], where: Sequel.~(lost_cause: nil), name: :grafts_by_loss
    end
  end
end
