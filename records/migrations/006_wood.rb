# frozen_string_literal: true

# The wood: stores and their thermometers, bundles and every stick in them, what was found at
# checks, and sticks that a grafter keeps for a stub.
Sequel.migration do
  up do
    table = lambda do |name, &columns|
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

    table.call(:stores) do
      String :name, null: false
      # What the thermometer is asked by; none where readings are brought in by hand.
      String :thermometer
      DateTime :answered_at
      String :trouble, text: true
      unique %i[orchard_id name]
    end

    create_table(:store_readings) do
      foreign_key :orchard_id, :orchards, null: false
      Integer :store_id, null: false
      column :at, :timestamptz, null: false
      Float :celsius, null: false
      primary_key %i[store_id at]
      foreign_key %i[orchard_id store_id], :stores, key: %i[orchard_id id]
      constraint(:warmer_than_nothing) { celsius >= -273.15 }
    end

    table.call(:bundles) do
      Integer :variety_id, null: false
      Integer :tree_id
      String :source, text: true
      Date :cut_on, null: false
      BigDecimal :length_mm
      TrueClass :whole_shoots, null: false, default: false
      String :ends
      String :dip
      String :packing
      Integer :parent_id
      String :cut_by
      column :client_key, :uuid
      foreign_key %i[orchard_id variety_id], :varieties, key: %i[orchard_id id]
      foreign_key %i[orchard_id tree_id], :trees, key: %i[orchard_id id]
      foreign_key %i[orchard_id parent_id], :bundles, key: %i[orchard_id id]
      unique %i[orchard_id client_key]
      index %i[orchard_id variety_id]
      constraint(:length_positive) { length_mm > 0 }
    end

    # Where a bundle lay, and since when; it lies in the latest.
    create_table(:bundle_stays) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :bundle_id, null: false
      Integer :store_id, null: false
      column :since, :timestamptz, null: false
      foreign_key %i[orchard_id bundle_id], :bundles, key: %i[orchard_id id]
      foreign_key %i[orchard_id store_id], :stores, key: %i[orchard_id id]
      index %i[bundle_id since]
    end

    # A stick is there until a graft takes it or it leaves; never both, never twice.
    create_table(:sticks) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :bundle_id, null: false
      Integer :number, null: false
      BigDecimal :diameter_mm
      Integer :graft_id
      String :left_for
      Date :left_on
      String :left_to, text: true
      foreign_key %i[orchard_id bundle_id], :bundles, key: %i[orchard_id id]
      foreign_key %i[orchard_id graft_id], :grafts, key: %i[orchard_id id]
      unique %i[orchard_id id]
      unique %i[bundle_id number]
      index :graft_id
      constraint(:known_reason, left_for: %w[lent discarded])
      constraint(:one_end, Sequel.lit("graft_id IS NULL OR left_for IS NULL"))
      constraint(:thickness_possible) { (diameter_mm > 0) & (diameter_mm <= 30) }
    end

    create_table(:bundle_checks) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :bundle_id, null: false
      Date :seen_on, null: false
      String :found, null: false
      String :note, text: true
      String :seen_by, null: false
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      foreign_key %i[orchard_id bundle_id], :bundles, key: %i[orchard_id id]
      constraint(:known_finding, found: %w[sound mould shrivelled swelling frozen])
      index :bundle_id
    end

    # A stick kept for a stub by hand: the match is made around it.
    create_table(:stick_locks) do
      foreign_key :orchard_id, :orchards, null: false
      Integer :stick_id, null: false
      Integer :plan_limb_id, null: false
      String :by, null: false
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      primary_key [:stick_id]
      foreign_key %i[orchard_id stick_id], :sticks, key: %i[orchard_id id]
      foreign_key %i[orchard_id plan_limb_id], :plan_limbs, key: %i[orchard_id id]
      index :plan_limb_id
    end
  end

  down { drop_table(:stick_locks, :bundle_checks, :sticks, :bundle_stays, :bundles, :store_readings, :stores) }
end
