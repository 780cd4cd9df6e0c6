# frozen_string_literal: true

# What trees were seen to do in spring, what was reckoned from it, the crew's days, and the weather
# service's last word.
Sequel.migration do
  up do
    alter_table(:orchards) do
      # The place the weather service knows it by; none where records are brought in by hand.
      add_column :weather_place, String
      add_column :weather_answered_at, DateTime
      add_column :weather_trouble, String, text: true
    end

    create_table(:phenology_seen) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :tree_id, null: false
      Date :seen_on, null: false
      String :stage, null: false
      TrueClass :slipping
      String :seen_by, null: false
      Integer :version, null: false, default: 1
      column :client_key, :uuid
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :hidden_at
      unique %i[orchard_id id]
      unique %i[orchard_id client_key]
      foreign_key %i[orchard_id tree_id], :trees, key: %i[orchard_id id]
      index %i[orchard_id seen_on]
      index %i[tree_id seen_on]
      constraint(:known_stage, stage: %w[dormant swelling green blossom leaves shoot])
    end

    # A species' forecast for a day, kept until weather or what was seen has moved on.
    create_table(:slip_forecasts) do
      foreign_key :orchard_id, :orchards, null: false
      String :species, null: false
      Date :for_day, null: false
      String :mark, null: false
      Float :threshold_dd, null: false
      Float :accumulated_dd
      Date :reached_on
      Date :p10
      Date :p50
      Date :p90
      String :basis, null: false
      primary_key %i[orchard_id species for_day]
    end

    create_table(:crew_days) do
      foreign_key :orchard_id, :orchards, null: false
      Date :day, null: false
      Float :hours, null: false
      Integer :grafters, null: false
      primary_key %i[orchard_id day]
      constraint(:possible) { (hours >= 0) & (hours <= 24) & (grafters >= 0) & (grafters <= 200) }
    end

    # A stub whose day was settled by hand.
    create_table(:crew_fixed) do
      foreign_key :orchard_id, :orchards, null: false
      Integer :plan_limb_id, null: false
      Date :day, null: false
      String :by, null: false
      primary_key [:plan_limb_id]
      foreign_key %i[orchard_id plan_limb_id], :plan_limbs, key: %i[orchard_id id]
    end
  end

  down do
    drop_table(:crew_fixed, :crew_days, :slip_forecasts, :phenology_seen)
    alter_table(:orchards) { %i[weather_place weather_answered_at weather_trouble].each { |name| drop_column name } }
  end
end
