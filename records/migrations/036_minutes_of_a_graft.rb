# frozen_string_literal: true

# How long a graft took, from the stub before to this one, where the walk of the day's stubs timed it.
Sequel.migration do
  up do
    alter_table(:grafts) do
      add_column :minutes, Float
      add_constraint(:minutes_possible, minutes: 0.5..480)
      add_index %i[orchard_id id], name: :grafts_timed, where: Sequel.lit("minutes IS NOT NULL")
    end
  end

  down { alter_table(:grafts) { drop_column :minutes } }
end
