# frozen_string_literal: true

# Aftercare goes to whoever did the work, unless it is given to someone else.
Sequel.migration do
  change do
    alter_table(:grafts) { add_column :tended_by, String }
    alter_table(:wounds) { add_column :tended_by, String }
  end
end
