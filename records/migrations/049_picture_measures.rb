# frozen_string_literal: true

# What was measured in a photo: the marks that were set in it, and what they came to.
Sequel.migration do
  up do
    create_table(:picture_measures) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :photo_id, null: false
      String :what, null: false
      column :marks, :jsonb, null: false
      Float :a_mm, null: false
      Float :b_mm
      Float :mean_mm, null: false
      Float :area_mm2
      Float :error_mm, null: false
      String :by, null: false
      Integer :version, null: false, default: 1
      column :client_key, :uuid
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :hidden_at
      unique %i[orchard_id id]
      unique %i[orchard_id client_key]
      foreign_key %i[orchard_id photo_id], :photos, key: %i[orchard_id id], on_delete: :cascade
      index :photo_id
      constraint(:known_what, what: %w[girth stub stick union opening margin shoot])
      constraint(:marks_object, Sequel.lit("jsonb_typeof(marks) = 'object'"))
      constraint(:sizes_possible, Sequel.lit("a_mm > 0 AND a_mm <= 20000 AND mean_mm > 0 AND mean_mm <= 20000"))
      constraint(:others_possible, Sequel.lit("b_mm >= 0 AND b_mm <= 20000 AND area_mm2 >= 0 AND area_mm2 <= 4e8"))
      constraint(:error_possible, Sequel.lit("error_mm >= 0 AND error_mm <= 20000"))
      constraint(:by_short, Sequel.lit("char_length(by) <= 200"))
    end
    { insert: "NEW", update: "NEW", delete: "OLD" }.each do |kind, which|
      run <<~SQL
        CREATE TRIGGER revision_#{kind} AFTER #{kind} ON picture_measures REFERENCING #{which} TABLE AS changed
          FOR EACH STATEMENT EXECUTE FUNCTION count_revision()
      SQL
    end
  end

  down { drop_table(:picture_measures) }
end
