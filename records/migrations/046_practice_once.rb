# frozen_string_literal: true

# An answer that is sent again is the same try, and a try is shown again as it was: with the numbers of the limb that it
# was done with.
Sequel.migration do
  up do
    alter_table(:practice_tries) do
      add_column :client_key, :uuid
      add_column :own, :jsonb
      add_unique_constraint %i[account_id client_key]
    end
  end

  down do
    alter_table(:practice_tries) do
      drop_column :client_key
      drop_column :own
    end
  end
end
