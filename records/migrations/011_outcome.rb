# frozen_string_literal: true

# What an autumn's count may say besides: the crop, how many of the sticks live, a waist at the union.
Sequel.migration do
  change do
    alter_table(:tallies) do
      add_column :crop_kg, BigDecimal
      add_column :sticks_alive, Integer
      add_column :waist, TrueClass, null: false, default: false
      add_constraint(:counts_not_negative) { (crop_kg >= 0) & (sticks_alive >= 0) }
      add_index %i[orchard_id season]
    end
  end
end
