# frozen_string_literal: true

# How high an orchard lies moves when its bark opens and closes, and so what its grafts need.
Sequel.migration do
  rules = ->(columns) {
    fresh, gone = %w[fresh gone].map { |side| columns.map { |column| "#{side}.#{column}" }.join(", ") }
    <<~SQL
      CREATE OR REPLACE FUNCTION care_by_rules() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE care_states SET valid_until = '-infinity' FROM fresh, gone
          WHERE fresh.id = gone.id AND care_states.orchard_id = fresh.id AND (#{fresh}) IS DISTINCT FROM (#{gone});
        RETURN NULL;
      END $$;
    SQL
  }

  up { run rules.call(%w[school overrides learned latitude altitude_m]) }
  down { run rules.call(%w[school overrides learned latitude]) }
end
