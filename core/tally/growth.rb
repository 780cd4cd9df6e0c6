# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # How fast grafts grow back what was cut, as learned from the counts.
      module Growth
        module_function

        # By age in seasons, what was counted weighed with the first figures.
        #
        # @param first [Array<Float>] shares by age, as the rulebook has them
        # @param seen [Hash{Integer=>Array<Float>}] shares counted, by age
        # @return [Array<Float>] as long as the first
        def learned(first, seen, rulebook)
          weight = rulebook.value("reckoning.projection.learn_strength").to_f
          first.each_with_index.map do |share, age|
            counted = seen.fetch(age, [])
            (counted.sum + weight * share) / (counted.size + weight)
          end
        end

        # The share that a graft of an age has grown back; the last figure holds from then on.
        #
        # @param age [Integer] in seasons
        # @return [Float]
        def share(age, rulebook)
          curve = rulebook.value("reckoning.projection.regrow")
          curve[age.clamp(0, curve.size - 1)]
        end

        # The longest that a shoot can have grown in so many days since its graft was made.
        #
        # @param days [Integer] from 0
        # @return [Float] mm
        def longest(days, rulebook)
          (rulebook.value("plausible.shoot_begun") + days * rulebook.value("plausible.shoot_daily")).to_f
        end

        # How far a graft reaches: its last year's growth, and of each before it what was left when its leader was cut
        # back in winter.
        #
        # @param grown_mm [Array<Numeric>] year by year
        # @return [Float] mm
        def reach(grown_mm, rulebook)
          grown_mm.empty? ? 0.0 : grown_mm.last + grown_mm[0..-2].sum * rulebook.value("reckoning.scaffold.keep").to_f
        end

        # Seasons until a graft has the length again that was cut, at the pace of its last year. Leaders are cut back
        # each
        # winter, and so much of a year's growth is kept.
        #
        # @param wanted_mm [Numeric]
        # @param grown_mm [Array<Numeric>] year by year, none of them empty
        # @return [Integer]
        def seasons_left(wanted_mm, grown_mm, rulebook)
          keep = rulebook.value("reckoning.scaffold.keep")
          [((wanted_mm - grown_mm.sum * keep) / (grown_mm.last * keep)).ceil, 0].max
        end
      end
    end
  end
end
