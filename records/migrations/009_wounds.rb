# frozen_string_literal: true

# Trunks stripped of bark: the wound and its margins, each bridging scion or inarched stock, what was
# seen of them, and what was done about a task of a wound as of a graft. A task may be put off.
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

    table.call(:wounds) do
      Integer :tree_id, null: false
      String :cause, null: false, default: "other"
      Date :happened_on
      Date :found_on, null: false
      BigDecimal :girth_mm, null: false
      String :girth_typed
      # The share of the girth with live bark, as judged at first sight; margins say it better.
      BigDecimal :bark_left
      TrueClass :root_bark, null: false, default: true
      TrueClass :buried, null: false, default: false
      TrueClass :below_union, null: false, default: false
      TrueClass :drying, null: false, default: false
      Date :covered_on
      String :course
      Date :repaired_on
      String :repaired_by
      String :wrap
      String :seal
      String :fixing
      String :bark_slip
      String :conditions, text: true
      String :note, text: true
      column :client_key, :uuid
      foreign_key %i[orchard_id tree_id], :trees, key: %i[orchard_id id]
      unique %i[orchard_id client_key]
      index :tree_id
      constraint(:girth_positive) { girth_mm > 0 }
      constraint(:share_possible) { (bark_left >= 0) & (bark_left <= 1) }
      constraint(:known_course, course: %w[dress bridge inarch cut-back])
      constraint(:known_cause, cause: %w[teeth strimmer sun frost other])
      constraint(:after_it_was_found) { (covered_on >= found_on) & (repaired_on >= found_on) }
    end

    create_table(:wound_margins) do
      foreign_key :orchard_id, :orchards, null: false
      Integer :wound_id, null: false
      BigDecimal :bearing_deg, null: false
      BigDecimal :low_mm, null: false
      BigDecimal :high_mm, null: false
      primary_key %i[wound_id bearing_deg]
      foreign_key %i[orchard_id wound_id], :wounds, key: %i[orchard_id id]
      constraint(:bearing_on_compass) { (bearing_deg >= 0) & (bearing_deg < 360) }
      constraint(:in_order) { high_mm >= low_mm }
    end

    # Planned while it has no day; then set, and perhaps seen dead.
    table.call(:bridge_scions) do
      Integer :wound_id, null: false
      Integer :number, null: false
      BigDecimal :bearing_deg, null: false
      BigDecimal :gap_mm
      BigDecimal :length_mm
      BigDecimal :thickness_mm
      Integer :bundle_id
      Date :set_on
      foreign_key %i[orchard_id wound_id], :wounds, key: %i[orchard_id id]
      foreign_key %i[orchard_id bundle_id], :bundles, key: %i[orchard_id id]
      index %i[wound_id number], unique: true, where: { hidden_at: nil }
      constraint(:bearing_on_compass) { (bearing_deg >= 0) & (bearing_deg < 360) }
      constraint(:sizes_positive) { (gap_mm >= 0) & (length_mm > 0) & (thickness_mm > 0) }
    end

    table.call(:wound_visits) do
      Integer :wound_id, null: false
      Date :seen_on, null: false
      String :leaves
      TrueClass :blossom_stripped, null: false, default: false
      String :note, text: true
      String :seen_by, null: false
      column :client_key, :uuid
      foreign_key %i[orchard_id wound_id], :wounds, key: %i[orchard_id id]
      unique %i[orchard_id client_key]
      index :wound_id
      constraint(:known_leaves, leaves: %w[full thin none])
    end

    create_table(:scion_fates) do
      foreign_key :orchard_id, :orchards, null: false
      Integer :visit_id, null: false
      Integer :scion_id, null: false
      String :fate, null: false
      BigDecimal :thickness_mm
      primary_key %i[visit_id scion_id]
      foreign_key %i[orchard_id visit_id], :wound_visits, key: %i[orchard_id id]
      foreign_key %i[orchard_id scion_id], :bridge_scions, key: %i[orchard_id id]
      constraint(:known_fate, fate: %w[alive dead])
      constraint(:thickness_positive) { thickness_mm > 0 }
    end

    alter_table(:tasks_done) do
      set_column_allow_null :graft_id
      add_column :wound_id, Integer
      add_column :until_on, Date
      add_foreign_key %i[orchard_id wound_id], :wounds, key: %i[orchard_id id]
      add_index %i[wound_id key], unique: true, where: { hidden_at: nil }
      drop_constraint :known_what
      add_constraint :known_what, what: %w[done waived put-off]
      add_constraint(:of_one_thing, Sequel.lit("(graft_id IS NULL) <> (wound_id IS NULL)"))
      add_constraint(:put_off_until, Sequel.lit("(what = 'put-off') = (until_on IS NOT NULL)"))
    end

    # A whole shoot may be cut up for a bridge.
    alter_table(:sticks) do
      add_column :wound_id, Integer
      add_foreign_key %i[orchard_id wound_id], :wounds, key: %i[orchard_id id]
      drop_constraint :one_end
      add_constraint(:one_end, Sequel.lit("num_nonnulls(graft_id, left_for, wound_id) <= 1"))
    end
  end

  down do
    alter_table(:sticks) do
      drop_constraint :one_end
      drop_column :wound_id
      add_constraint(:one_end, Sequel.lit("graft_id IS NULL OR left_for IS NULL"))
    end
    run "DELETE FROM tasks_done WHERE wound_id IS NOT NULL OR what = 'put-off'"
    alter_table(:tasks_done) do
      drop_constraint :put_off_until
      drop_constraint :of_one_thing
      drop_constraint :known_what
      add_constraint :known_what, what: %w[done waived]
      drop_column :until_on
      drop_column :wound_id
      set_column_not_null :graft_id
    end
    drop_table(:scion_fates, :wound_visits, :bridge_scions, :wound_margins, :wounds)
  end
end
