# frozen_string_literal: true

# People, what they may do where, and what keeps the door: sign-in, invitations, letters.
Sequel.migration do
  up do
    run "CREATE EXTENSION IF NOT EXISTS pg_trgm"

    create_table(:accounts) do
      primary_key :id, type: :Bignum
      Integer :status_id, null: false, default: 2
      String :email, null: false, unique: true
      String :name, null: false
      String :password_hash
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      constraint(:email_lower_case, Sequel.lit("email = lower(email)"))
    end

    create_table(:account_password_reset_keys) do
      foreign_key :id, :accounts, primary_key: true, type: :Bignum, on_delete: :cascade
      String :key, null: false
      DateTime :deadline, null: false
      DateTime :email_last_sent, null: false, default: Sequel::CURRENT_TIMESTAMP
    end

    create_table(:account_remember_keys) do
      foreign_key :id, :accounts, primary_key: true, type: :Bignum, on_delete: :cascade
      String :key, null: false
      DateTime :deadline, null: false
    end

    create_table(:account_login_failures) do
      foreign_key :id, :accounts, primary_key: true, type: :Bignum, on_delete: :cascade
      Integer :number, null: false, default: 1
    end

    create_table(:account_lockouts) do
      foreign_key :id, :accounts, primary_key: true, type: :Bignum, on_delete: :cascade
      String :key, null: false
      DateTime :deadline, null: false
      DateTime :email_last_sent
    end

    create_table(:account_active_session_keys) do
      foreign_key :account_id, :accounts, type: :Bignum, on_delete: :cascade
      String :session_id
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :last_use, null: false, default: Sequel::CURRENT_TIMESTAMP
      primary_key %i[account_id session_id]
    end

    create_table(:memberships) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      foreign_key :account_id, :accounts, null: false, type: :Bignum
      String :role, null: false
      Integer :version, null: false, default: 1
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :hidden_at
      unique %i[orchard_id account_id]
      unique %i[orchard_id id]
      constraint(:known_role, role: %w[steward grafter viewer])
      index :account_id
    end

    create_table(:invites) do
      primary_key :id
      foreign_key :orchard_id, :orchards, null: false
      String :token_digest, null: false, unique: true
      String :role, null: false
      String :name
      String :invited_by, null: false
      DateTime :expires_at, null: false
      DateTime :used_at
      foreign_key :used_by, :accounts, type: :Bignum
      DateTime :revoked_at
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      constraint(:known_role, role: %w[steward grafter viewer])
      index :orchard_id
    end

    create_table(:letters) do
      primary_key :id, type: :Bignum
      foreign_key :account_id, :accounts, type: :Bignum
      String :address, null: false
      String :subject, null: false
      String :body, null: false, text: true
      DateTime :sent_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      index :account_id
    end

    create_table(:door_counts) do
      String :key, primary_key: true
      String :value, text: true
      DateTime :expires_at
    end

    run "CREATE INDEX varieties_name_forgiving ON varieties USING gin (name gin_trgm_ops)"
    run "CREATE INDEX grafts_grafter_forgiving ON grafts USING gin (grafter gin_trgm_ops)"
  end

  down do
    run "DROP INDEX varieties_name_forgiving"
    run "DROP INDEX grafts_grafter_forgiving"
    drop_table(:door_counts, :letters, :invites, :memberships, :account_active_session_keys, :account_lockouts,
               :account_login_failures,
               :account_remember_keys, :account_password_reset_keys, :accounts)
  end
end
