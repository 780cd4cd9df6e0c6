# frozen_string_literal: true

# Who wrote something is an account, and not whoever has the same name: in each orchard a person is known by a name of
# their own. An orchard that is brought in counts how often that was tried. What is found in a file is written down as
# it
# is found, and not looked for again with each look at its page.
Sequel.migration do
  up do
    alter_table(:memberships) { add_column :known_as, String }
    # The second of one name is numbered, as one who joins now is.
    run <<~SQL
      UPDATE memberships SET known_as = CASE
        WHEN named.place = 1 THEN named.name ELSE named.name || ' ' || named.place END
        FROM (SELECT m.id, left(a.name, 80) AS name, row_number() OVER (PARTITION BY m.orchard_id, lower(a.name)
          ORDER BY m.id) AS place
                FROM memberships m JOIN accounts a ON a.id = m.account_id) AS named
        WHERE named.id = memberships.id
    SQL
    run "CREATE UNIQUE INDEX memberships_one_name ON memberships (orchard_id, lower(known_as))"
    run <<~SQL
      CREATE FUNCTION member_name() RETURNS trigger LANGUAGE plpgsql AS $$
      DECLARE wanted text; place integer := 1;
      BEGIN
        IF NEW.known_as IS NOT NULL THEN RETURN NEW; END IF;
        -- Two who join at once wait for each other.
        PERFORM pg_advisory_xact_lock(6, NEW.orchard_id);
        SELECT left(name, 80) INTO wanted FROM accounts WHERE id = NEW.account_id;
        NEW.known_as := wanted;
        WHILE EXISTS (SELECT 1 FROM memberships WHERE orchard_id = NEW.orchard_id
          AND lower(known_as) = lower(NEW.known_as)) LOOP
          place := place + 1;
          NEW.known_as := wanted || ' ' || place;
        END LOOP;
        RETURN NEW;
      END $$;
      CREATE TRIGGER member_name BEFORE INSERT ON memberships FOR EACH ROW EXECUTE FUNCTION member_name();
    SQL

    alter_table(:history) { add_foreign_key :account_id, :accounts, type: :Bignum }
    run "UPDATE history SET account_id = m.account_id FROM memberships m WHERE m.orchard_id = history.orchard_id " \
        "AND m.known_as = history.who"

    # What an orchard brought in says of its own past is of no account here.
    run <<~SQL
      CREATE FUNCTION history_account() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        IF current_setting('vestry.new_orchard', true) = NEW.orchard_id::text THEN RETURN NEW; END IF;
        SELECT account_id INTO NEW.account_id FROM memberships WHERE orchard_id = NEW.orchard_id AND known_as = NEW.who;
        RETURN NEW;
      END $$;
      CREATE TRIGGER history_account BEFORE INSERT ON history FOR EACH ROW EXECUTE FUNCTION history_account();
    SQL

    alter_table(:arrivals) { add_column :tries, Integer, null: false, default: 0 }
    alter_table(:imports) do
      add_column :sample, :jsonb, null: false, default: "[]"
      drop_constraint :known_state
      add_constraint(:known_state, state: %w[reading previewed waiting running done failed])
    end
  end

  down do
    alter_table(:imports) do
      drop_column :sample
      drop_constraint :known_state
      add_constraint(:known_state, state: %w[previewed waiting running done failed])
    end
    alter_table(:arrivals) { drop_column :tries }
    run "DROP TRIGGER history_account ON history; DROP FUNCTION history_account()"
    alter_table(:history) { drop_column :account_id }
    run "DROP TRIGGER member_name ON memberships; DROP FUNCTION member_name()"
    alter_table(:memberships) { drop_column :known_as }
  end
end
