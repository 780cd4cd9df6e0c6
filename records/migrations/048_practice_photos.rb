# frozen_string_literal: true

# How deep a cut on prunings went, of how thick a stick, and its picture.
Sequel.migration do
  up do
    alter_table(:practice_cuts) do
      add_column :depth_mm, Float
      add_column :across_mm, Float
      add_column :image, :jsonb
      add_constraint(:sane_depth, Sequel.lit("depth_mm > 0 AND depth_mm <= across_mm AND across_mm <= 100"))
      add_constraint(:depth_of_something, Sequel.lit("(depth_mm IS NULL) = (across_mm IS NULL)"))
    end
  end

  down do
    alter_table(:practice_cuts) do
      drop_constraint(:depth_of_something)
      drop_constraint(:sane_depth)
      drop_column :image
      drop_column :across_mm
      drop_column :depth_mm
    end
  end
end
