# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Where a limb that turned out different on the day is cut, and how thick it is there.
      module ChangedCut
        module_function

        # Below a tear, and clear of crooked or unsound wood.
        #
        # @param at_mm [Numeric] the place planned, from the fork
        # @param stub_mm [Numeric] how thick the limb is there
        # @param torn_mm [Numeric, nil] how far a tear runs below it
        # @return [Float] mm from the fork
        def at(at_mm, stub_mm, torn_mm:, crooked:, rulebook:)
          at_mm -= torn_mm + rulebook.value("reckoning.changed.below_tear") if torn_mm
          at_mm -= stub_mm * rulebook.value("reckoning.changed.clear_of_crook") if crooked
          at_mm
        end

        # As measured, and as much thicker lower down as the limb tapers.
        #
        # @param measured_mm [Numeric, nil] at the place planned
        # @param there_mm [Numeric] by the taper at the place planned
        # @param here_mm [Numeric] by the taper at the place it is cut now
        # @return [Float]
        def stub(measured_mm, there_mm, here_mm) = measured_mm ? measured_mm * here_mm / there_mm : here_mm
      end
    end
  end
end
