# frozen_string_literal: true

# A bundle's weight tells of water only between weighings of the same sticks: how many lay in it is kept with the
# weight. Of weighings that stand already it is counted from the days on which sticks were used or left.
Sequel.migration do
  up do
    alter_table(:bundle_checks) do
      add_column :weighed_sticks, Integer
      add_constraint(:weighed_possible, Sequel.lit("weighed_sticks BETWEEN 1 AND 1000"))
    end
    run <<~SQL
      UPDATE bundle_checks SET weighed_sticks = there.count
      FROM (
        SELECT c.id, count(*) FROM bundle_checks c
        JOIN sticks s ON s.bundle_id = c.bundle_id
        LEFT JOIN grafts g ON g.id = s.graft_id
        LEFT JOIN wounds w ON w.id = s.wound_id
        WHERE c.weight_g IS NOT NULL AND (s.left_on IS NULL OR s.left_on >= c.seen_on)
          AND (s.graft_id IS NULL OR g.grafted_on >= c.seen_on)
          AND (s.wound_id IS NULL OR w.repaired_on >= c.seen_on)
        GROUP BY c.id
      ) there
      WHERE there.id = bundle_checks.id
    SQL
  end

  down { alter_table(:bundle_checks) { drop_column :weighed_sticks } }
end
