# frozen_string_literal: true

# A packed orchard on its way in, from the zip to the orchard it became; how far a packing is; an orchard
# that was taken back out of sight.
Sequel.migration do
  change do
    create_table(:arrivals) do
      primary_key :id
      foreign_key :account_id, :accounts, type: :Bignum, null: false, index: true
      foreign_key :orchard_id, :orchards
      column :token, :uuid, null: false, unique: true
      String :file_name, null: false
      String :slug
      String :state, null: false, default: "waiting"
      Bignum :done, null: false, default: 0
      Bignum :bytes, null: false
      column :counts, :jsonb, null: false, default: "{}"
      String :trouble
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :finished_at
      DateTime :undone_at
      constraint(:known_state, state: %w[waiting trying tried refused sent bringing here])
    end

    alter_table(:exports) do
      add_column :done, Integer, null: false, default: 0
      add_column :rows, Integer, null: false, default: 0
    end

    alter_table(:orchards) { add_column :hidden_at, DateTime }
  end
end
