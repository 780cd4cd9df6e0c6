# frozen_string_literal: true

# Who takes a planned limb on: what their hand is expected to come to is then planned with.
Sequel.migration do
  up do
    alter_table(:plan_limbs) do
      add_column :hand, String
      add_constraint(:hand_named, Sequel.lit("char_length(hand) BETWEEN 1 AND 200"))
    end
  end

  down do
    alter_table(:plan_limbs) do
      drop_constraint(:hand_named)
      drop_column :hand
    end
  end
end
