# frozen_string_literal: true

module Vestry
  module Records
    # What a tree was seen to do: its stage, and whether its bark slipped in a small test cut.
    class PhenologySeen < Sequel::Model(DB[:phenology_seen])
      include Row
      many_to_one :orchard
      many_to_one :tree

      # In the order of spring.
      STAGES = { "dormant" => "asleep", "swelling" => "buds swelling", "green" => "buds green",
                 "blossom" => "in blossom", "leaves" => "leaves part grown", "shoot" => "new shoot" }.freeze

      # What was seen of a tree on a day.
      def self.of_day(tree, day) = in_sight.first(orchard_id: tree.orchard_id, tree_id: tree.id, seen_on: day)
    end
  end
end
