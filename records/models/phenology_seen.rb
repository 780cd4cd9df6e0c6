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
    end
  end
end
