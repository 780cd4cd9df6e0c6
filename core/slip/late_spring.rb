# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # How many of the days on which bark slips are left where spring comes as late as one in ten.
      module LateSpring
        # From so many past springs on they say themselves how far apart they lie; fewer, and the calendar does.
        FEWEST = 4
        private_constant :FEWEST

        # @param opens [Array<Integer>] in past springs, the day from which bark slipped, counted alike
        # @param closes [Integer] the day on which it closes
        # @param usual [Integer] the day by the calendar
        # @return [Float] 0..1, the share of a middling spring's days
        def self.share(opens:, closes:, usual:, rulebook: Rulebook.shipped)
          sorted = opens.sort
          middling, late = sorted.values_at(sorted.size / 2, (sorted.size * 0.9).ceil - 1) if sorted.size >= FEWEST
          middling, late = [usual, usual + rulebook.value("reckoning.slip.calendar_spread")] unless middling
          closes > middling ? ((closes - late) / (closes - middling).to_f).clamp(0.0, 1.0) : 1.0
        end
      end
    end
  end
end
