# frozen_string_literal: true

# Orchards, their trees and limbs, what was decided, what was done, and what came of it.
# Every row names its orchard, and points only at rows of the same orchard.
Sequel.migration do
  up do
    create_table(:orchards) do
      primary_key :id
      String :slug, null: false, unique: true
      String :name, null: false
      Float :latitude, null: false
      Float :longitude, null: false
      String :time_zone, null: false, default: "Etc/UTC"
      String :grazing, null: false, default: "none"
      Integer :wind_from_deg
      BigDecimal :reach_mm, null: false, default: 2400
      String :units, null: false, default: "metric"
      String :school, null: false
      column :overrides, :jsonb, null: false, default: "{}"
      Integer :version, null: false, default: 1
      constraint(:place_on_earth) { (latitude >= -90) & (latitude <= 90) & (longitude >= -180) & (longitude <= 180) }
      constraint(:wind_on_compass) { (wind_from_deg >= 0) & (wind_from_deg < 360) }
      constraint(:reach_positive) { reach_mm > 0 }
      constraint(:known_units, units: %w[metric imperial])
      constraint(:known_grazing, grazing: %w[none sheep deer horses cattle])
    end

    orchard_table = lambda do |name, &columns|
      create_table(name) do
        primary_key :id
        foreign_key :orchard_id, :orchards, null: false
        instance_eval(&columns)
        Integer :version, null: false, default: 1
        DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
        DateTime :hidden_at
        unique %i[orchard_id id]
      end
    end

    orchard_table.call(:varieties) do
      String :name, null: false
      String :species, null: false
      String :bloom_from
      String :bloom_to
      String :harvest_from
      String :harvest_to
      String :vigour
      String :pollen
      TrueClass :protected, null: false, default: false
      String :permission
      String :origin, text: true
      String :notes, text: true
      unique %i[orchard_id name]
      constraint(:month_days,
                 Sequel.lit("concat(bloom_from, bloom_to, harvest_from, harvest_to) ~ '^([01][0-9]-[0-3][0-9])*$'"))
    end

    orchard_table.call(:trees) do
      String :row, null: false
      Integer :number, null: false
      String :species, null: false
      String :form, null: false, default: "bush"
      String :vigour
      String :condition
      String :rootstock
      Integer :variety_id
      Integer :planted_year
      Float :x_m
      Float :y_m
      BigDecimal :height_mm
      BigDecimal :trunk_girth_mm
      String :notes, text: true
      unique %i[orchard_id row number]
      foreign_key %i[orchard_id variety_id], :varieties, key: %i[orchard_id id]
      constraint(:number_positive) { number > 0 }
      constraint(:known_form, form: ["standard", "bush", "open-vase", "central-leader", "wall-trained"])
      constraint(:sizes_positive) { (height_mm > 0) & (trunk_girth_mm > 0) }
    end

    orchard_table.call(:limbs) do
      Integer :tree_id, null: false
      Integer :parent_id
      String :tag, null: false
      BigDecimal :fork_mm, null: false
      BigDecimal :bearing_deg, null: false
      BigDecimal :rise_deg, null: false
      BigDecimal :girth_mm
      BigDecimal :wide_mm
      BigDecimal :narrow_mm
      String :thickness_typed
      BigDecimal :length_mm, null: false
      String :length_typed
      BigDecimal :bark_mm, null: false, default: 3
      String :bark
      BigDecimal :flat_deg
      String :straight
      String :damage, text: true
      Integer :variety_id
      Date :surveyed_on, null: false
      Date :gone_on
      unique %i[tree_id tag]
      unique %i[orchard_id tree_id id]
      foreign_key %i[orchard_id tree_id], :trees, key: %i[orchard_id id]
      foreign_key %i[orchard_id tree_id parent_id], :limbs, key: %i[orchard_id tree_id id]
      foreign_key %i[orchard_id variety_id], :varieties, key: %i[orchard_id id]
      constraint(:bearing_on_compass) { (bearing_deg >= 0) & (bearing_deg < 360) }
      constraint(:flat_on_compass) { (flat_deg >= 0) & (flat_deg < 360) }
      constraint(:rise_possible) { (rise_deg >= -90) & (rise_deg <= 90) }
      constraint(:sizes_positive) do
        (girth_mm > 0) & (wide_mm > 0) & (narrow_mm > 0) & (length_mm > 0) & (bark_mm >= 0) & (fork_mm >= 0)
      end
      constraint(:one_thickness, Sequel.lit("girth_mm IS NOT NULL OR (wide_mm IS NOT NULL AND narrow_mm IS NOT NULL)"))
      constraint(:not_its_own_parent) { Sequel.~(parent_id: :id) }
      index :tree_id
    end

    orchard_table.call(:plans) do
      Integer :tree_id, null: false
      String :purpose, text: true
      String :school
      Integer :seasons, null: false, default: 1
      DateTime :superseded_at
      foreign_key %i[orchard_id tree_id], :trees, key: %i[orchard_id id]
      index :tree_id, unique: true, where: { superseded_at: nil }, name: :plans_one_in_use
    end

    orchard_table.call(:plan_limbs) do
      Integer :plan_id, null: false
      Integer :limb_id, null: false
      String :role, null: false
      Integer :season
      BigDecimal :cut_mm
      String :technique
      Integer :variety_id
      Integer :sticks
      column :faces, "numeric[]", null: false, default: Sequel.lit("'{}'")
      String :against_reason, text: true
      foreign_key %i[orchard_id plan_id], :plans, key: %i[orchard_id id]
      foreign_key %i[orchard_id limb_id], :limbs, key: %i[orchard_id id]
      foreign_key %i[orchard_id variety_id], :varieties, key: %i[orchard_id id]
      unique %i[plan_id limb_id]
      constraint(:known_role, role: %w[work later backup nurse renew lift])
      constraint(:counts_positive) { (sticks > 0) & (cut_mm > 0) }
    end

    orchard_table.call(:grafts) do
      Integer :limb_id, null: false
      Date :grafted_on, null: false
      String :technique, null: false
      Integer :variety_id, null: false
      BigDecimal :cut_mm
      BigDecimal :stub_mm, null: false
      String :stub_typed
      BigDecimal :scion_mm
      Integer :sticks, null: false
      column :faces, "numeric[]", null: false, default: Sequel.lit("'{}'")
      String :grafter, null: false
      String :wrap, null: false
      String :seal, null: false
      String :cover, null: false
      TrueClass :brace, null: false, default: false
      TrueClass :perch, null: false, default: false
      String :bark_slip
      String :conditions, text: true
      String :against_reason, text: true
      column :client_key, :uuid
      foreign_key %i[orchard_id limb_id], :limbs, key: %i[orchard_id id]
      foreign_key %i[orchard_id variety_id], :varieties, key: %i[orchard_id id]
      unique %i[orchard_id client_key]
      constraint(:sizes_positive) { (stub_mm > 0) & (sticks > 0) & (cut_mm > 0) & (scion_mm > 0) }
      index :limb_id
      index %i[orchard_id grafted_on]
    end

    orchard_table.call(:observations) do
      Integer :graft_id, null: false
      Date :seen_on, null: false
      String :buds
      String :callus
      BigDecimal :longest_shoot_mm
      String :verdict
      String :seal_state
      String :wrap_state
      String :note, text: true
      String :seen_by
      column :client_key, :uuid
      foreign_key %i[orchard_id graft_id], :grafts, key: %i[orchard_id id]
      unique %i[orchard_id client_key]
      constraint(:shoot_not_negative) { longest_shoot_mm >= 0 }
      index :graft_id
    end

    orchard_table.call(:tasks_done) do
      Integer :graft_id, null: false
      String :key, null: false
      Date :done_on, null: false
      String :what, null: false
      String :done_by
      String :why, text: true
      foreign_key %i[orchard_id graft_id], :grafts, key: %i[orchard_id id]
      constraint(:known_what, what: %w[done waived])
      index %i[graft_id key], unique: true, where: { hidden_at: nil }
    end

    orchard_table.call(:tallies) do
      Integer :graft_id, null: false
      Integer :season, null: false
      Date :tallied_on, null: false
      TrueClass :alive, null: false
      BigDecimal :growth_mm
      BigDecimal :above_mm
      BigDecimal :below_mm
      BigDecimal :open_a_mm
      BigDecimal :open_b_mm
      BigDecimal :angle_deg
      String :breakage, text: true
      String :note, text: true
      String :tallied_by
      column :client_key, :uuid
      foreign_key %i[orchard_id graft_id], :grafts, key: %i[orchard_id id]
      unique %i[orchard_id client_key]
      index %i[graft_id season], unique: true, where: { hidden_at: nil }
      constraint(:sizes_not_negative) do
        (growth_mm >= 0) & (above_mm >= 0) & (below_mm >= 0) & (open_a_mm >= 0) & (open_b_mm >= 0)
      end
    end

    create_table(:history) do
      primary_key :id, type: :Bignum
      foreign_key :orchard_id, :orchards, null: false
      String :table_name, null: false
      Integer :row_id, null: false
      String :action, null: false
      column :before, :jsonb
      column :after, :jsonb
      String :who, null: false
      String :why, text: true
      DateTime :at, null: false, default: Sequel::CURRENT_TIMESTAMP
      index %i[orchard_id table_name row_id]
      constraint(:known_action, action: %w[add change hide restore])
    end
  end

  down do
    drop_table(:history, :tallies, :tasks_done, :observations, :grafts, :plan_limbs, :plans, :limbs, :trees, :varieties,
               :orchards)
  end
end
