# frozen_string_literal: true

# A test cut says whether bark slips; what the buds do need not be said with it.
Sequel.migration do
  up { alter_table(:phenology_seen) { set_column_allow_null :stage } }
  down do
    run "DELETE FROM phenology_seen WHERE stage IS NULL; ALTER TABLE phenology_seen ALTER COLUMN stage SET NOT NULL"
  end
end
