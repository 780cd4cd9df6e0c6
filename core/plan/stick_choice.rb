# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # What one, two or more sticks on a stub come to, side by side.
      module StickChoice
        extend Reckoning

        # Beyond so many sticks a stub is crowded whatever the method takes.
        MOST = 5

        contract "stick-choice", "What one, two or more sticks on a stub come to, side by side" do
          number :diameter_mm, unit: "mm", above: 0, help: "of the stub"
          number :take, least: 0, most: 1, help: "share of single sticks that take"
          integer :most_sticks, above: 0, most: 12, help: "that the method takes"
          flag :upright, default: true, help: "a stub that stands; on a leaning one sticks sit about its upper side"
        end

        # A stub takes when one of its sticks does: 1 - (1 - take)^k. The cut face closes from where living wood feeds
        # it, and the farthest of it lies d x max(1/2, sin(pi / 2k)) from a stick: a season for every 20 mm of that.
        # All sticks but one are thinned out in the end.
        #
        # @return [Hash] +choices+, each +sticks+, +stub_take+, +seasons_to_close+, +thinning_cuts+ and +warnings+
        #   (one_on_large, under_side)
        def self.call(diameter_mm:, take:, most_sticks:, upright: true, rulebook: Rulebook.shipped)
          closes = rulebook.value("reckoning.closure.fed").to_f
          { choices: (1..[most_sticks, MOST].min).map do |count|
            { sticks: count, stub_take: 1 - (1 - take)**count,
              seasons_to_close: Near.ceil(diameter_mm * farthest(count) / closes), thinning_cuts: count - 1,
              warnings: warnings(count, diameter_mm, upright, rulebook) }
          end }
        end

        # How far the farthest part of the cut face lies from the nearest stick, as a share of the diameter.
        #
        # @param living [Integer] sticks, spread evenly
        def self.farthest(living) = [0.5, Math.sin(Math::PI / (2 * living))].max

        def self.warnings(count, diameter_mm, upright, rulebook)
          large = Sticks.too_wide_for_one?(diameter_mm, rulebook)
          widest = rulebook.value("reckoning.sticks.leaning").fetch(count).max
          [("one_on_large" if count == 1 && large), ("under_side" if !upright && widest > 90)].compact
        end
        private_class_method :warnings
      end
    end
  end
end
