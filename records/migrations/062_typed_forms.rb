# frozen_string_literal: true

# What someone sent after their session had ended waits for them to sign in again.
Sequel.migration do
  up do
    create_table(:typed_forms) do
      primary_key :id, type: :Bignum
      foreign_key :account_id, :accounts, type: :Bignum, null: false, on_delete: :cascade, index: true
      String :path, null: false
      column :fields, :jsonb, null: false
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
    end
  end

  down { drop_table(:typed_forms) }
end
