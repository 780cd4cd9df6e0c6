# frozen_string_literal: true

# What happened to a limb can be taken back: what it changed is kept beside it. A limb that was taken off is told with
# the rest. A graft that stood before the survey says since when it is known.
Sequel.migration do
  up do
    alter_table(:limb_events) do
      drop_constraint(:known_kind)
      add_constraint(:known_kind, kind: %w[broken died-back headed taken-off tied-down regrown])
      add_column :changes, :jsonb, null: false, default: "[]"
    end
    alter_table(:grafts) do
      add_column :known_since, Date
      add_constraint(:known_later, Sequel.lit("known_since >= grafted_on"))
    end
  end

  down do
    alter_table(:grafts) { drop_column :known_since }
    from(:limb_events).where(kind: "taken-off").delete
    alter_table(:limb_events) do
      drop_column :changes
      drop_constraint(:known_kind)
      add_constraint(:known_kind, kind: %w[broken died-back headed tied-down regrown])
    end
  end
end
