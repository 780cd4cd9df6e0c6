# frozen_string_literal: true

# A visit or a count marks its graft's care by itself: where very many come in at once and care is marked
# as a whole, nothing is gathered beside them for a mark that is not made.
Sequel.migration do
  up do
    run <<~SQL
      CREATE FUNCTION care_of_one() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE cares SET valid_until = '-infinity' WHERE graft_id = NEW.graft_id;
        RETURN NULL;
      END $$;
    SQL
    %w[observations tallies].each do |table|
      run "DROP TRIGGER care_seen ON #{table}"
      run "CREATE TRIGGER care_seen AFTER INSERT ON #{table} FOR EACH ROW EXECUTE FUNCTION care_of_one()"
    end
  end

  down do
    %w[observations tallies].each do |table|
      run "DROP TRIGGER care_seen ON #{table}"
      run "CREATE TRIGGER care_seen AFTER INSERT ON #{table} REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT " \
          "EXECUTE FUNCTION care_of_graft_changes()"
    end
    run "DROP FUNCTION care_of_one()"
  end
end
