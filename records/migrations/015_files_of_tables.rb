# frozen_string_literal: true

# Files of any table may come in, and know the rows they brought, so that they can be taken back.
Sequel.migration do
  up do
    alter_table(:imports) { drop_constraint(:known_kind) }
    create_table(:import_rows) do
      foreign_key :import_id, :imports, null: false, on_delete: :cascade
      Integer :row_id, null: false
      primary_key %i[import_id row_id]
    end
  end

  down do
    drop_table(:import_rows)
    run "DELETE FROM imports WHERE kind NOT IN ('trees', 'limbs', 'waypoints')"
    alter_table(:imports) { add_constraint(:known_kind, kind: %w[trees limbs waypoints]) }
  end
end
