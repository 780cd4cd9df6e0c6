# frozen_string_literal: true

# A planned limb whose graft was lost is worked again once that is decided: the day of the graft that was lost.
Sequel.migration do
  change do
    alter_table(:plan_limbs) do
      add_column :after_graft_on, Date
      add_constraint(:plain_after_graft_on, Sequel.lit("after_graft_on BETWEEN '1700-01-01' AND '2200-12-31'"))
    end
  end
end
