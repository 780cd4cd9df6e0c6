# frozen_string_literal: true

# What happened to a limb besides a graft: it broke, died back, was headed, tied down, or grew again.
Sequel.migration do
  up do
    create_table(:limb_events) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :limb_id, null: false
      Date :happened_on, null: false
      String :kind, null: false
      BigDecimal :left_mm
      BigDecimal :rise_deg
      String :note
      String :by, null: false
      Integer :version, null: false, default: 1
      column :client_key, :uuid
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :hidden_at
      unique %i[orchard_id id]
      unique %i[orchard_id client_key]
      foreign_key %i[orchard_id limb_id], :limbs, key: %i[orchard_id id]
      index :limb_id
      constraint(:known_kind, kind: %w[broken died-back headed tied-down regrown])
      constraint(:left_possible, Sequel.lit("left_mm BETWEEN 0 AND 60000"))
      constraint(:rise_possible, Sequel.lit("rise_deg BETWEEN -90 AND 90"))
      constraint(:day_possible, Sequel.lit("happened_on BETWEEN '1700-01-01' AND '2300-01-01'"))
      constraint(:note_short, Sequel.lit("char_length(note) <= 500"))
      constraint(:by_short, Sequel.lit("char_length(by) <= 200"))
    end
    { insert: "NEW", update: "NEW", delete: "OLD" }.each do |kind, which|
      run <<~SQL
        CREATE TRIGGER revision_#{kind} AFTER #{kind} ON limb_events REFERENCING #{which} TABLE AS changed
          FOR EACH STATEMENT EXECUTE FUNCTION count_revision()
      SQL
    end
  end

  down { drop_table(:limb_events) }
end
