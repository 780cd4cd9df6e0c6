# frozen_string_literal: true

# Addresses under which one tree can be read by whoever has them, until they end.
Sequel.migration do
  up do
    create_table(:tree_links) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      Integer :tree_id, null: false
      String :digest, null: false, unique: true
      String :for_whom, null: false
      String :by, null: false
      Date :ends_on, null: false
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :read_at
      DateTime :revoked_at
      foreign_key %i[orchard_id tree_id], :trees, key: %i[orchard_id id], on_delete: :cascade
      index %i[orchard_id tree_id]
      constraint(:for_whom_short, Sequel.lit("char_length(for_whom) <= 80"))
      constraint(:by_short, Sequel.lit("char_length(by) <= 200"))
      constraint(:days_possible, Sequel.lit("ends_on BETWEEN '1700-01-01' AND '2200-12-31'"))
    end
    { insert: "NEW", update: "NEW", delete: "OLD" }.each do |kind, which|
      run <<~SQL
        CREATE TRIGGER revision_#{kind} AFTER #{kind} ON tree_links REFERENCING #{which} TABLE AS changed
          FOR EACH STATEMENT EXECUTE FUNCTION count_revision()
      SQL
    end
  end

  down { drop_table(:tree_links) }
end
