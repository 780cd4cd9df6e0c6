# frozen_string_literal: true

# The latest counts of an orchard are the first along an index, always the same of those of one autumn.
Sequel.migration do
  up do
    run "CREATE INDEX tallies_by_season ON tallies (orchard_id, season, id)"
    run "DROP INDEX tallies_orchard_id_season_index"
  end

  down do
    run "CREATE INDEX tallies_orchard_id_season_index ON tallies (orchard_id, season)"
    run "DROP INDEX tallies_by_season"
  end
end
