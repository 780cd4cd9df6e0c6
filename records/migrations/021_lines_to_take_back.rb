# frozen_string_literal: true

# What a file wrote into a table whose rows have no number: a row that is still the same can be taken back.
Sequel.migration do
  change do
    create_table(:import_lines) do
      foreign_key :import_id, :imports, null: false, on_delete: :cascade, index: true
      column :row, :jsonb, null: false
    end
  end
end
