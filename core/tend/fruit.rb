# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # How much fruit a young union could carry, against the practice of none.
      module Fruit
        extend Reckoning

        contract "fruit", "How much fruit a young union could carry, and how much it should" do
          number :weeks, unit: "weeks", least: 0, help: "since the graft"
          number :base_diameter_mm, unit: "mm", above: 0, help: "of the shoot at the union"
          number :lever_mm, unit: "mm", above: 0, help: "how far out the fruit hangs"
          number :fruit_g, unit: "g", above: 0, help: "of one ripe fruit"
          number :hold, above: 0, most: 1, default: 1.0, help: "share of the joint that is grown together"
          integer :season, above: 0, help: "since the graft; 1 is its own"
          integer :none_for, least: 0, help: "seasons without fruit, by the practice"
        end

        # could = floor(resisting / 3 / (m g lever)), g 9.81; none while the practice says so.
        #
        # @return [Hash] +could_carry+, +fruits+, +resisting_nm+ (N m)
        def self.call(weeks:, base_diameter_mm:, lever_mm:, fruit_g:, season:, none_for:, hold: 1.0,
                      rulebook: Rulebook.shipped)
          resisting = Union.resisting(Union.strength(weeks, hold, rulebook), base_diameter_mm)
          could = Near.floor(resisting / rulebook.value("reckoning.union.fruit_safety") / (fruit_g / 1000 * rulebook
            .value("reckoning.union.gravity") * lever_mm / 1000))
          { could_carry: could, fruits: season <= none_for ? 0 : could, resisting_nm: resisting }
        end
      end
    end
  end
end
