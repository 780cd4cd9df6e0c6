# frozen_string_literal: true

# When a mail service took a letter, and what it said when it did not.
Sequel.migration do
  change do
    alter_table(:letters) do
      add_column :delivered_at, DateTime
      add_column :trouble, String, text: true
    end
  end
end
