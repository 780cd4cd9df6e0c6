# frozen_string_literal: true

# Two names in the register that turn out to be one variety: the one that is merged into the other is hidden, and says
# into which.
Sequel.migration do
  naming = %w[trees limbs plan_limbs plan_sites grafts bundles wood_promises]

  up do
    alter_table(:varieties) do
      add_column :same_as_id, Integer
      add_foreign_key %i[orchard_id same_as_id], :varieties, key: %i[orchard_id id], name: :varieties_same_as
      add_constraint(:merged_varieties_are_hidden,
                     Sequel.lit("same_as_id IS NULL OR (hidden_at IS NOT NULL AND same_as_id <> id)"))
      add_index %i[orchard_id same_as_id], where: Sequel.~(same_as_id: nil), name: :varieties_merged
    end
    # What names a variety is counted on its page.
    alter_table(:grafts) { add_index %i[orchard_id variety_id], name: :grafts_of_variety }
    alter_table(:limbs) do
      add_index %i[orchard_id variety_id], where: Sequel.~(variety_id: nil), name: :limbs_of_variety
    end
    # A row that is written while two are merged names the one that is left.
    run <<~SQL
      CREATE FUNCTION merged_variety() RETURNS trigger LANGUAGE plpgsql AS $$
        DECLARE merged_into integer;
        BEGIN
          SELECT same_as_id INTO merged_into FROM varieties WHERE id = NEW.variety_id FOR KEY SHARE;
          NEW.variety_id := COALESCE(merged_into, NEW.variety_id);
          RETURN NEW;
        END $$;
    SQL
    naming.each do |table|
      run "CREATE TRIGGER merged_variety BEFORE INSERT ON #{table} FOR EACH ROW " \
          "WHEN (NEW.variety_id IS NOT NULL) EXECUTE FUNCTION merged_variety()"
      run "CREATE TRIGGER merged_variety_update BEFORE UPDATE OF variety_id ON #{table} FOR EACH ROW " \
          "WHEN (NEW.variety_id IS DISTINCT FROM OLD.variety_id AND NEW.variety_id IS NOT NULL) " \
          "EXECUTE FUNCTION merged_variety()"
    end
  end

  down do
    run "DROP FUNCTION merged_variety() CASCADE"
    alter_table(:limbs) { drop_index %i[orchard_id variety_id], name: :limbs_of_variety }
    alter_table(:grafts) { drop_index %i[orchard_id variety_id], name: :grafts_of_variety }
    alter_table(:varieties) do
      drop_index %i[orchard_id same_as_id], name: :varieties_merged
      drop_constraint(:merged_varieties_are_hidden)
      drop_foreign_key %i[orchard_id same_as_id], name: :varieties_same_as
      drop_column :same_as_id
    end
  end
end
