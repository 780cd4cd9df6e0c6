# frozen_string_literal: true

# A form's own key tells a second sending from the first. Rows that came otherwise have none, and need
# no place in its index.
Sequel.migration do
  tables = %i[grafts observations tallies]

  up do
    tables.each do |table|
      alter_table(table) do
        drop_constraint(:"#{table}_orchard_id_client_key_key")
        add_index(%i[orchard_id client_key], unique: true, where: Sequel.~(client_key: nil))
      end
    end
  end

  down do
    tables.each do |table|
      alter_table(table) do
        drop_index(%i[orchard_id client_key])
        add_unique_constraint(%i[orchard_id client_key], name: :"#{table}_orchard_id_client_key_key")
      end
    end
  end
end
