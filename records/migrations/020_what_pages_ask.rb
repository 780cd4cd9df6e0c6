# frozen_string_literal: true

# The latest of an orchard's changes, for its page of them and to know whether anything changed; the same of
# what was seen in spring; and the trees of a variety in the order in which wood is cut from them.
Sequel.migration do
  change do
    alter_table(:history) { add_index %i[orchard_id id] }
    alter_table(:phenology_seen) do
      add_index %i[orchard_id id], include: :version, where: { hidden_at: nil }, name: :phenology_seen_in_sight
    end
    alter_table(:trees) { add_index %i[orchard_id variety_id vigour row number], name: :trees_to_cut_from }
  end
end
