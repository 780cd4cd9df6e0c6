# frozen_string_literal: true

# A survey may be begun with a tag and a thickness; the rest is measured later. Bare stretches
# that could take a graft in the side, photos, and files on their way in.
Sequel.migration do
  up do
    alter_table(:limbs) do
      %i[fork_mm bearing_deg rise_deg length_mm].each { |column| set_column_allow_null column }
      add_index %i[orchard_id parent_id]
    end
    alter_table(:trees) do
      add_column :latitude, Float
      add_column :longitude, Float
      # Where it is drawn, in metres: as surveyed, by its coordinates, or by row and number.
      add_column :map_x, Float, null: false, default: 0
      add_column :map_y, Float, null: false, default: 0
      add_index %i[orchard_id map_x map_y], name: :trees_by_place
      add_index %i[orchard_id species]
      add_index %i[orchard_id variety_id]
    end

    create_table(:sites) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :tree_id, null: false
      Integer :limb_id
      String :tag, null: false
      BigDecimal :at_mm, null: false
      BigDecimal :bearing_deg, null: false
      BigDecimal :diameter_mm
      String :notes, text: true
      Integer :version, null: false, default: 1
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :hidden_at
      unique %i[orchard_id id]
      index %i[tree_id tag], unique: true, where: { hidden_at: nil }
      foreign_key %i[orchard_id tree_id], :trees, key: %i[orchard_id id]
      foreign_key %i[orchard_id tree_id limb_id], :limbs, key: %i[orchard_id tree_id id]
      constraint(:bearing_on_compass) { (bearing_deg >= 0) & (bearing_deg < 360) }
      constraint(:sizes_possible) { (at_mm >= 0) & (diameter_mm > 0) }
    end

    create_table(:photos) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :tree_id, null: false
      Integer :limb_id
      Integer :observation_id
      String :caption
      Date :taken_on, null: false
      column :image, :jsonb, null: false
      String :by, null: false
      Integer :version, null: false, default: 1
      column :client_key, :uuid
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :hidden_at
      unique %i[orchard_id id]
      unique %i[orchard_id client_key]
      foreign_key %i[orchard_id tree_id], :trees, key: %i[orchard_id id]
      foreign_key %i[orchard_id tree_id limb_id], :limbs, key: %i[orchard_id tree_id id]
      foreign_key %i[orchard_id observation_id], :observations, key: %i[orchard_id id]
      index :tree_id
    end

    create_table(:imports) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      String :kind, null: false
      String :file_name, null: false
      File :content, null: false
      String :state, null: false, default: "previewed"
      Integer :lines, null: false, default: 0
      Integer :good, null: false, default: 0
      Integer :done, null: false, default: 0
      column :faults, :jsonb, null: false, default: "[]"
      String :by, null: false
      String :trouble, text: true
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :finished_at
      index :orchard_id
      constraint(:known_kind, kind: %w[trees limbs waypoints])
      constraint(:known_state, state: %w[previewed waiting running done failed])
    end
  end

  down do
    drop_table(:imports, :photos, :sites)
    alter_table(:limbs) { drop_index %i[orchard_id parent_id] }
    alter_table(:trees) do
      drop_index %i[orchard_id species]
      drop_index %i[orchard_id variety_id]
      drop_column :map_x
      drop_column :map_y
      drop_column :latitude
      drop_column :longitude
    end
  end
end
