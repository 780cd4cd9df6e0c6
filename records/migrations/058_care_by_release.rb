# frozen_string_literal: true

# What is kept of aftercare was reckoned by one release's rules: another begins it again.
Sequel.migration do
  up do
    alter_table(:care_mark) { add_column :release, :text }
  end

  down do
    alter_table(:care_mark) { drop_column :release }
  end
end
