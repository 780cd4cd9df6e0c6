# frozen_string_literal: true

# How a table from elsewhere is read, and the same for the next that looks like it.
Sequel.migration do
  up do
    alter_table(:imports) do
      add_column :layout, :jsonb
      drop_constraint :known_state
      add_constraint(:known_state, state: %w[matching reading previewed waiting running done failed])
    end
    create_table(:import_layouts) do
      foreign_key :orchard_id, :orchards, null: false
      String :kind, null: false
      String :headings, null: false
      column :layout, :jsonb, null: false
      DateTime :used_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      primary_key %i[orchard_id kind headings]
      constraint(:kind_short, Sequel.lit("char_length(kind) <= 40"))
      constraint(:headings_short, Sequel.lit("char_length(headings) <= 64"))
      constraint(:layout_object, Sequel.lit("jsonb_typeof(layout) = 'object'"))
    end
  end

  down do
    drop_table(:import_layouts)
    self[:imports].where(state: "matching").update(state: "failed")
    alter_table(:imports) do
      drop_column :layout
      drop_constraint :known_state
      add_constraint(:known_state, state: %w[reading previewed waiting running done failed])
    end
  end
end
