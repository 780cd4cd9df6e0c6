# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How long a stub takes: by method, further sticks, and a ladder where it is high.
      module WorkTime
        AN_HOUR = 60.0

        module_function

        # @param sticks [Integer]
        # @param height_mm [Numeric, nil] of the stub above the ground
        # @return [Numeric] minutes
        def minutes(method, sticks, height_mm, rulebook)
          rulebook.value("methods.#{method}.minutes") + (sticks - 1) * rulebook.value("reckoning.hours.more_stick") +
            (ladder?(height_mm, rulebook) ? rulebook.value("reckoning.hours.ladder") : 0)
        end

        # @return [Float] hours
        def hours(minutes) = minutes / AN_HOUR
        # What is so much a minute, an hour.
        def an_hour(price) = price * AN_HOUR

        # How much longer stubs take than the figures say, by those that were timed: the mean of the shares, drawn
        # towards one while they are few. What is far from its figure was a pause, or was pressed afterwards, and says
        # nothing.
        #
        # @param taken [Array<Hash>] +minutes+ and +reckoned+ of each
        # @return [Hash] +times+ and +stubs+, how many say so
        def pace(taken, rulebook:)
          low, high = rulebook.value("reckoning.hours.timed_between")
          shares = taken.map { |each| each[:minutes] / each[:reckoned].to_f }
            .select { |share| Near.within?(share, low, high) }
          weight = rulebook.value("reckoning.hours.timed_weight").to_f
          { times: (weight + shares.sum) / (weight + shares.size), stubs: shares.size }
        end

        # Whether it is out of reach from the ground, by more than a height is known.
        def ladder?(height_mm, rulebook)
          (height_mm || 0) > rulebook.value("reckoning.hours.from_ground") +
            rulebook.value("reckoning.hours.height_known")
        end
      end
    end
  end
end
