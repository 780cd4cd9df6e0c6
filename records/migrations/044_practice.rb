# frozen_string_literal: true

# What a person practised: theirs, in no orchard's archive. A steward sees it where they allow it.
Sequel.migration do
  up do
    create_table(:practice_tries) do
      primary_key :id
      foreign_key :account_id, :accounts, null: false, on_delete: :cascade
      String :exercise, null: false
      Integer :level, null: false
      Integer :seed, null: false
      column :answer, :jsonb, null: false
      Float :score, null: false
      TrueClass :passed, null: false
      Integer :nth, null: false, default: 1
      Date :day, null: false
      DateTime :created_at, null: false, default: Sequel::CURRENT_TIMESTAMP
      index %i[account_id exercise id]
      constraint(:exercise_short, Sequel.lit("char_length(exercise) <= 40"))
      constraint(:known_level, level: 1..5)
      constraint(:seed_not_negative) { seed >= 0 }
      constraint(:score_a_share, score: 0.0..1.0)
    end
    add_column :memberships, :practice_shown, TrueClass, null: false, default: false
  end

  down do
    drop_column :memberships, :practice_shown
    drop_table(:practice_tries)
  end
end
