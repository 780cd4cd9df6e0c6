# frozen_string_literal: true

# A stub that was not done on its day says why, and stays in the plan.
Sequel.migration do
  change do
    alter_table(:plan_limbs) do
      add_column :undone_on, Date
      add_column :undone_why, String, text: true
    end
  end
end
