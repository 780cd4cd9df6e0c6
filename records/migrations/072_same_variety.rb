# frozen_string_literal: true

# Two names in the register that turn out to be one variety: the one that is given up is out of sight, and says which
# variety it is.
Sequel.migration do
  naming = %w[trees limbs plan_limbs plan_sites grafts bundles wood_promises]

  up do
    alter_table(:varieties) do
      add_column :same_as_id, Integer
      add_foreign_key %i[orchard_id same_as_id], :varieties, key: %i[orchard_id id], name: :varieties_same_as
      add_constraint(:given_up_names_are_out_of_sight,
                     Sequel.lit("same_as_id IS NULL OR (hidden_at IS NOT NULL AND same_as_id <> id)"))
      add_index %i[orchard_id same_as_id], where: Sequel.~(same_as_id: nil), name: :varieties_given_up
    end
    # What names a variety is counted on its page.
    alter_table(:grafts) { add_index %i[orchard_id variety_id], name: :grafts_of_variety }
    alter_table(:limbs) do
      add_index %i[orchard_id variety_id], where: Sequel.~(variety_id: nil), name: :limbs_of_variety
    end
    # Whoever wrote of that name meanwhile, and waited, wrote of the one that stays.
    run <<~SQL
      CREATE FUNCTION variety_that_stays() RETURNS trigger LANGUAGE plpgsql AS $$
        DECLARE stays integer;
        BEGIN
          SELECT same_as_id INTO stays FROM varieties WHERE id = NEW.variety_id FOR KEY SHARE;
          NEW.variety_id := COALESCE(stays, NEW.variety_id);
          RETURN NEW;
        END $$;
    SQL
    naming.each do |table|
      run "CREATE TRIGGER variety_that_stays BEFORE INSERT ON #{table} FOR EACH ROW " \
          "WHEN (NEW.variety_id IS NOT NULL) EXECUTE FUNCTION variety_that_stays()"
      run "CREATE TRIGGER variety_that_stays_now BEFORE UPDATE OF variety_id ON #{table} FOR EACH ROW " \
          "WHEN (NEW.variety_id IS DISTINCT FROM OLD.variety_id AND NEW.variety_id IS NOT NULL) " \
          "EXECUTE FUNCTION variety_that_stays()"
    end
  end

  down do
    run "DROP FUNCTION variety_that_stays() CASCADE"
    alter_table(:limbs) { drop_index %i[orchard_id variety_id], name: :limbs_of_variety }
    alter_table(:grafts) { drop_index %i[orchard_id variety_id], name: :grafts_of_variety }
    alter_table(:varieties) do
      drop_index %i[orchard_id same_as_id], name: :varieties_given_up
      drop_constraint(:given_up_names_are_out_of_sight)
      drop_foreign_key %i[orchard_id same_as_id], name: :varieties_same_as
      drop_column :same_as_id
    end
  end
end
