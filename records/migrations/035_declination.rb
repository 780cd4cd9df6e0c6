# frozen_string_literal: true

# How far magnetic north lies to the east of true north in the orchard, for bearings that a phone's compass gives.
Sequel.migration do
  up do
    alter_table(:orchards) do
      add_column :declination_deg, Float
      add_constraint(:declination_possible, declination_deg: -180..180)
    end
  end

  down { alter_table(:orchards) { drop_column :declination_deg } }
end
