# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # How far grafts have grown, and until when they have the length again that was cut.
      module Growth
        module_function

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
