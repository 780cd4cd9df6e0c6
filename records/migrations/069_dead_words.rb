# frozen_string_literal: true

# What says that a graft is dead is little beside all that is seen and counted: it is found along an index of its own.
Sequel.migration do
  up do
    run "CREATE INDEX observations_dead ON observations (graft_id) WHERE hidden_at IS NULL AND " \
        "(verdict = 'failed' OR buds = 'dead')"
    run "CREATE INDEX tallies_dead ON tallies (graft_id) WHERE hidden_at IS NULL AND alive IS FALSE"
  end

  down { run "DROP INDEX observations_dead; DROP INDEX tallies_dead" }
end
