# frozen_string_literal: true

# Lines of history that one request wrote are one deed, so that it can be undone whole.
Sequel.migration do
  up do
    alter_table(:history) do
      add_column :deed, :uuid
      add_index %i[orchard_id deed], where: Sequel.lit("deed IS NOT NULL"), name: :history_of_deed
    end
  end

  down { alter_table(:history) { drop_column :deed } }
end
