# frozen_string_literal: true

# Which of its sticks a visit found dead, by their places from one on, in the order their faces were noted.
Sequel.migration do
  change do
    alter_table(:observations) do
      add_column :dead_sticks, "numeric[]", null: false, default: Sequel.lit("'{}'")
    end
  end
end
