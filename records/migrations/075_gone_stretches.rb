# frozen_string_literal: true

# A bare stretch whose wood was cut off with its limb's top has gone, as a branch has.
Sequel.migration do
  change do
    alter_table(:sites) { add_column :gone_on, Date }
  end
end
