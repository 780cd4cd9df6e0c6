# frozen_string_literal: true

# A code for every tree and limb, for the short address on its label. It is the orchard's own and travels with it, so
# that a label still leads to its limb after the orchard has moved to another server.
Sequel.migration do
  up do
    # Nine of 32 signs that are not taken for one another: some 35 million million.
    run <<~SQL
      CREATE FUNCTION new_label_code() RETURNS text LANGUAGE sql VOLATILE AS $$
        SELECT string_agg(substr('0123456789ABCDEFGHJKMNPQRSTVWXYZ', 1 + floor(random() * 32)::int, 1), '')
        FROM generate_series(1, 9)
      $$
    SQL
    %i[trees limbs].each do |table|
      alter_table(table) do
        add_column :code, :text, null: false, default: Sequel.lit("new_label_code()")
        add_constraint(:"#{table}_code_reads", Sequel.lit("code ~ '^[0-9A-HJKMNP-TV-Z]{9}$'"))
        add_unique_constraint %i[orchard_id code], name: :"#{table}_code_once"
      end
    end
  end

  down do
    %i[trees limbs].each { |table| alter_table(table) { drop_column :code } }
    run "DROP FUNCTION new_label_code()"
  end
end
