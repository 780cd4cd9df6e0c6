# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How long a stub takes: by method, further sticks, and a ladder where it is high.
      module WorkTime
        module_function

        # @param sticks [Integer]
        # @param height_mm [Numeric, nil] of the stub above the ground
        # @return [Numeric] minutes
        def minutes(method, sticks, height_mm, rulebook)
          rulebook.value("methods.#{method}.minutes") + (sticks - 1) * rulebook.value("reckoning.hours.more_stick") +
            (ladder?(height_mm, rulebook) ? rulebook.value("reckoning.hours.ladder") : 0)
        end

        # Whether it is out of reach from the ground.
        def ladder?(height_mm, rulebook) = (height_mm || 0) > rulebook.value("reckoning.hours.from_ground")
      end
    end
  end
end
