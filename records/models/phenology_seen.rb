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

      # Where bark was seen to lift no longer, in past years and in this one.
      #
      # @return [Array<Array(Integer, String, Date)>] tree, species and day
      def self.closings(orchard, today)
        in_sight.where(Sequel[:phenology_seen][:orchard_id] => orchard.id, closed: true)
          .where { seen_on <= today }.join(:trees, id: :tree_id)
          .select_map([Sequel[:phenology_seen][:tree_id], :species, :seen_on])
      end

      # What was seen of a tree on a day.
      def self.of_day(tree, day) = in_sight.first(orchard_id: tree.orchard_id, tree_id: tree.id, seen_on: day)
    end
  end
end
