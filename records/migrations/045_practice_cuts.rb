# frozen_string_literal: true

# Cuts that a person made on prunings at a real bench, to see when the hand is ready.
Sequel.migration do
  up do
    create_table(:practice_cuts) do
      primary_key :id
      foreign_key :account_id, :accounts, null: false, on_delete: :cascade
      String :kind, null: false
      Float :length_mm, null: false
      TrueClass :rocks, null: false
      TrueClass :daylight, null: false
      Date :day, null: false
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      index %i[account_id kind id]
      constraint(:kind_short, Sequel.lit("char_length(kind) <= 40"))
      constraint(:sane_length, Sequel.lit("length_mm > 0 AND length_mm <= 500"))
    end
  end

  down { drop_table(:practice_cuts) }
end
