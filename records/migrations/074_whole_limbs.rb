# frozen_string_literal: true

# A limb that broke, died back or was headed tapers as it grew: by how long it was before.
Sequel.migration do
  up do
    alter_table(:limbs) do
      add_column :whole_mm, BigDecimal
      add_constraint(:whole_positive) { (whole_mm > 0) & (whole_mm <= 100_000) }
    end
    run <<~SQL
      UPDATE limbs SET whole_mm = first.was FROM (
        SELECT DISTINCT ON (event.limb_id) event.limb_id, (change->>'was')::numeric AS was
        FROM limb_events event, jsonb_array_elements(event.changes) change
        WHERE event.hidden_at IS NULL AND event.kind IN ('broken', 'died-back', 'headed')
          AND change->>'table' = 'limbs' AND change->>'column' = 'length_mm' AND change->>'id' = event.limb_id::text
          AND change->>'was' IS NOT NULL
        ORDER BY event.limb_id, event.happened_on, event.id
      ) first
      WHERE first.limb_id = limbs.id AND first.was > limbs.length_mm AND first.was <= 100000
    SQL
  end

  down do
    alter_table(:limbs) do
      drop_constraint :whole_positive
      drop_column :whole_mm
    end
  end
end
