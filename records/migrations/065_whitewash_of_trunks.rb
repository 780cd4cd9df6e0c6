# frozen_string_literal: true

# Whitewash of a stripped trunk and of bark that a head had shaded are two tasks.
Sequel.migration do
  up { from(:tasks_done).where(key: "whitewash").exclude(wound_id: nil).update(key: "whitewash-trunk") }
  down { from(:tasks_done).where(key: "whitewash-trunk").exclude(wound_id: nil).update(key: "whitewash") }
end
