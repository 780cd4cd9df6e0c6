# frozen_string_literal: true

# The orchard's limbs allotted to seasons in the background: what was asked, what came of it, and what was accepted of
# it, so that it can be taken back.
Sequel.migration do
  up do
    create_table(:allotments) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      column :wish, :jsonb, null: false
      column :answer, :jsonb
      column :accepted, :jsonb, null: false, default: "[]"
      String :state, null: false, default: "waiting"
      String :trouble
      String :by, null: false
      Integer :done, null: false, default: 0
      column :client_key, :uuid
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :finished_at
      unique %i[orchard_id id]
      unique %i[orchard_id client_key]
      constraint(:known_state, state: %w[waiting running done failed cancelled])
      constraint(:by_short, Sequel.lit("char_length(by) <= 200"))
      constraint(:trouble_short, Sequel.lit("char_length(trouble) <= 500"))
    end
    { insert: "NEW", update: "NEW", delete: "OLD" }.each do |kind, which|
      run <<~SQL
        CREATE TRIGGER revision_#{kind} AFTER #{kind} ON allotments REFERENCING #{which} TABLE AS changed
          FOR EACH STATEMENT EXECUTE FUNCTION count_revision()
      SQL
    end
  end

  down { drop_table(:allotments) }
end
