# frozen_string_literal: true

# Plans in full: bare sites, limbs cut long in winter, wood that is promised, many trees planned
# at once, and the weather they are planned by.
Sequel.migration do
  up do
    alter_table(:varieties) do
      add_column :outside, TrueClass, null: false, default: false
    end
    alter_table(:plans) do
      add_column :cap, BigDecimal
      add_constraint(:cap_is_a_share) { (cap > 0) & (cap <= 1) }
    end
    alter_table(:plan_limbs) do
      # What the limb measured at the cut when it was decided.
      add_column :stock_mm, BigDecimal
      add_column :long_cut_mm, BigDecimal
      add_column :headed_on, Date
      add_column :headed_by, String
      add_constraint(:long_is_longer) { long_cut_mm > cut_mm }
    end

    create_table(:plan_sites) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :plan_id, null: false
      Integer :site_id, null: false
      String :role, null: false
      Integer :season
      String :technique
      Integer :variety_id
      Integer :sticks, null: false, default: 1
      Integer :version, null: false, default: 1
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :hidden_at
      unique %i[orchard_id id]
      unique %i[plan_id site_id]
      foreign_key %i[orchard_id plan_id], :plans, key: %i[orchard_id id]
      foreign_key %i[orchard_id site_id], :sites, key: %i[orchard_id id]
      foreign_key %i[orchard_id variety_id], :varieties, key: %i[orchard_id id]
      constraint(:known_role, role: %w[work later])
      constraint(:counts_positive) { sticks > 0 }
    end

    create_table(:wood_promises) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :variety_id, null: false
      Integer :season, null: false
      Integer :sticks, null: false
      String :source, text: true
      Integer :version, null: false, default: 1
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :hidden_at
      unique %i[orchard_id id]
      foreign_key %i[orchard_id variety_id], :varieties, key: %i[orchard_id id]
      index %i[orchard_id season]
      constraint(:counts_not_negative) { sticks >= 0 }
    end

    # One plan laid over many trees: what was asked for, how far it is, and what it came to by tree.
    create_table(:patterns) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      column :wish, :jsonb, null: false
      column :tree_ids, "integer[]", null: false
      String :state, null: false, default: "waiting"
      Integer :done, null: false, default: 0
      column :outcome, :jsonb, null: false, default: "[]"
      String :by, null: false
      String :trouble, text: true
      column :client_key, :uuid
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :finished_at
      unique %i[orchard_id client_key]
      constraint(:known_state, state: %w[waiting running done failed])
    end

    create_table(:weather_days) do
      foreign_key :orchard_id, :orchards, null: false
      Date :day, null: false
      Float :min_c, null: false
      Float :max_c, null: false
      Float :rain_mm
      Float :gust_ms
      TrueClass :forecast, null: false, default: false
      primary_key %i[orchard_id day]
      constraint(:temperatures_in_order) { max_c >= min_c }
      constraint(:rain_not_negative) { (rain_mm >= 0) & (gust_ms >= 0) }
    end
  end

  down do
    drop_table(:weather_days, :patterns, :wood_promises, :plan_sites)
    alter_table(:plan_limbs) { %i[stock_mm long_cut_mm headed_on headed_by].each { |name| drop_column name } }
    alter_table(:plans) { drop_column :cap }
    alter_table(:varieties) { drop_column :outside }
  end
end
