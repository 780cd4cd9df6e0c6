# frozen_string_literal: true

# Figures that an orchard's own seasons have taught, laid over the rulebook's wherever they are used, once a day.
Sequel.migration do
  rules = ->(names) {
    fresh, gone = %w[fresh gone].map { |row| names.map { |name| "#{row}.#{name}" }.join(", ") }
    <<~SQL
      CREATE OR REPLACE FUNCTION care_by_rules() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE care_states SET valid_until = '-infinity' FROM fresh, gone
          WHERE fresh.id = gone.id AND care_states.orchard_id = fresh.id AND (#{fresh}) IS DISTINCT FROM (#{gone});
        RETURN NULL;
      END $$;
    SQL
  }

  up do
    add_column :orchards, :learned, :jsonb, null: false, default: "{}"
    run rules.call(%w[school overrides learned latitude])
  end

  down do
    run rules.call(%w[school overrides latitude])
    drop_column :orchards, :learned
  end
end
