# frozen_string_literal: true

# What grafters see and were not asked for: bark that was not measured and is not said to be 3 mm, a second diameter
# further out, unsound stretches of a limb, bark that lifts no longer or bleeds, sticks that live, a bud's leaf stalk,
# the plant that an approach graft is joined to, and how high the orchard lies.
Sequel.migration do
  up do
    alter_table(:orchards) do
      add_column :altitude_m, Float, null: false, default: 0
      add_constraint(:altitude_possible, altitude_m: -500..6000)
    end
    alter_table(:limbs) do
      set_column_default :bark_mm, nil
      set_column_allow_null :bark_mm
      add_column :outer_at_mm, BigDecimal
      add_column :outer_mm, BigDecimal
      add_column :unsound_mm, "numeric[]", null: false, default: Sequel.lit("'{}'")
      add_constraint(:outer_possible) do
        (Sequel[:outer_at_mm] =~ nil) & (Sequel[:outer_mm] =~ nil) | ((outer_at_mm > 0) & (outer_mm > 0))
      end
    end
    # The figure that stood in every form and was seldom measured.
    run "UPDATE limbs SET bark_mm = NULL WHERE bark_mm = 3"
    alter_table(:phenology_seen) do
      add_column :closed, TrueClass, null: false, default: false
      add_column :bleeds, TrueClass, null: false, default: false
    end
    alter_table(:observations) do
      add_column :sticks_alive, Integer
      add_column :leaf_stalk, String
      add_constraint(:known_leaf_stalk) { (Sequel[:leaf_stalk] =~ nil) | (Sequel[:leaf_stalk] =~ %w[falls clings]) }
      add_constraint(:sticks_alive_possible) { (Sequel[:sticks_alive] =~ nil) | (Sequel[:sticks_alive] =~ (0..12)) }
    end
    alter_table(:wounds) do
      drop_constraint :known_course
      add_constraint(:known_course, course: %w[dress bridge inarch cut-back stump-graft])
    end
    alter_table(:grafts) { add_column :donor, String, text: true }
    alter_table(:plan_sites) { add_column :donor, String, text: true }
  end

  down do
    alter_table(:plan_sites) { drop_column :donor }
    alter_table(:grafts) { drop_column :donor }
    alter_table(:wounds) do
      drop_constraint :known_course
      add_constraint(:known_course, course: %w[dress bridge inarch cut-back])
    end
    alter_table(:observations) do
      drop_column :leaf_stalk
      drop_column :sticks_alive
    end
    alter_table(:phenology_seen) do
      drop_column :bleeds
      drop_column :closed
    end
    run "UPDATE limbs SET bark_mm = 3 WHERE bark_mm IS NULL"
    alter_table(:limbs) do
      drop_column :unsound_mm
      drop_column :outer_mm
      drop_column :outer_at_mm
      set_column_default :bark_mm, 3
      set_column_not_null :bark_mm
    end
    alter_table(:orchards) { drop_column :altitude_m }
  end
end
