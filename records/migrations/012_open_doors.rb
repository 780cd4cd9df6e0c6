# frozen_string_literal: true

# Rows know the file they came from, so that a file can be taken back; orchards packed for download;
# keys for programs, each a person's.
Sequel.migration do
  change do
    %i[trees limbs].each do |table|
      alter_table(table) do
        add_column :import_id, Integer
        add_index %i[orchard_id import_id], where: Sequel.~(import_id: nil), name: :"#{table}_by_file"
      end
    end
    alter_table(:imports) { add_column :undone_at, DateTime }

    create_table(:exports) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      String :state, null: false, default: "waiting"
      String :by, null: false
      Bignum :bytes
      String :trouble, text: true
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :finished_at
      index :orchard_id
      constraint(:known_state, state: %w[waiting running done failed])
    end

    create_table(:api_tokens) do
      primary_key :id
      foreign_key :account_id, :accounts, null: false
      String :name, null: false
      String :digest, null: false, unique: true
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :used_at
      DateTime :revoked_at
      index :account_id
    end
  end
end
