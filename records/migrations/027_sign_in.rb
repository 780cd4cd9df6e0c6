# frozen_string_literal: true

# Sign-in: a key for each device, second factors, delays after wrong tries, and a log of who came to the door.
# Keys for programs end, and may be for reading alone or for one orchard.
Sequel.migration do
  up do
    # Whoever stays signed in does so by the session of that device, which ends with signing out.
    drop_table(:account_remember_keys)
    alter_table(:account_active_session_keys) do
      add_column :device, String, null: false, default: "a device"
      add_column :stays, TrueClass, null: false, default: false
    end

    create_table(:known_devices) do
      primary_key :id
      foreign_key :account_id, :accounts, null: false, type: :Bignum, on_delete: :cascade
      String :digest, null: false, unique: true
      String :name, null: false
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      DateTime :seen_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      index :account_id
    end

    create_table(:sign_in_tries) do
      String :key, primary_key: true
      Integer :failures, null: false, default: 1
      DateTime :last_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      index :last_at
    end

    create_table(:account_otp_keys) do
      foreign_key :id, :accounts, primary_key: true, type: :Bignum, on_delete: :cascade
      String :key, null: false
      Integer :num_failures, null: false, default: 0
      DateTime :last_use, null: false, default: Sequel::CURRENT_TIMESTAMP
    end

    create_table(:account_recovery_codes) do
      foreign_key :id, :accounts, type: :Bignum, on_delete: :cascade
      String :code
      primary_key %i[id code]
    end

    create_table(:account_webauthn_user_ids) do
      foreign_key :id, :accounts, primary_key: true, type: :Bignum, on_delete: :cascade
      String :webauthn_id, null: false
    end

    create_table(:account_webauthn_keys) do
      foreign_key :account_id, :accounts, type: :Bignum, on_delete: :cascade
      String :webauthn_id
      String :public_key, null: false
      Integer :sign_count, null: false
      DateTime :last_use, null: false, default: Sequel::CURRENT_TIMESTAMP
      primary_key %i[account_id webauthn_id]
    end

    create_table(:account_login_change_keys) do
      foreign_key :id, :accounts, primary_key: true, type: :Bignum, on_delete: :cascade
      String :key, null: false
      String :login, null: false
      DateTime :deadline, null: false
    end

    create_table(:door_log) do
      primary_key :id, type: :Bignum
      DateTime :at, null: false, default: Sequel::CURRENT_TIMESTAMP
      foreign_key :account_id, :accounts, type: :Bignum
      foreign_key :orchard_id, :orchards
      String :what, null: false
      String :about, null: false, default: ""
      String :place, null: false, default: ""
      String :device, null: false, default: ""
      index %i[orchard_id id]
      index %i[account_id id]
      index :at
    end

    alter_table(:accounts) { add_column :closed_at, DateTime }
    alter_table(:orchards) { add_column :second_factor, TrueClass, null: false, default: false }
    alter_table(:api_tokens) do
      add_column :scope, String, null: false, default: "write"
      add_column :orchard_id, Integer
      add_column :expires_at, DateTime
      add_foreign_key [:orchard_id], :orchards, name: :api_tokens_orchard
      add_constraint(:known_scope, scope: %w[read write])
    end
    run "UPDATE api_tokens SET expires_at = now() AT TIME ZONE 'UTC' + interval '90 days'"
    alter_table(:api_tokens) { set_column_not_null :expires_at }
  end

  down do
    alter_table(:api_tokens) do
      drop_constraint :known_scope
      drop_column :scope
      drop_column :orchard_id
      drop_column :expires_at
    end
    alter_table(:orchards) { drop_column :second_factor }
    alter_table(:accounts) { drop_column :closed_at }
    drop_table(:door_log, :account_login_change_keys, :account_webauthn_keys, :account_webauthn_user_ids,
               :account_recovery_codes,
               :account_otp_keys, :sign_in_tries, :known_devices)
    alter_table(:account_active_session_keys) do
      drop_column :stays
      drop_column :device
    end
    create_table(:account_remember_keys) do
      foreign_key :id, :accounts, primary_key: true, type: :Bignum, on_delete: :cascade
      String :key, null: false
      DateTime :deadline, null: false
    end
  end
end
