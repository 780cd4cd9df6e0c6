# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Where a stub is cut again on which what was set died.
      module Recut
        module_function

        # Up to where its wood is fresh.
        #
        # @param cut_mm [Numeric] where the stub ends, from the fork
        # @return [Float] mm from the fork
        def fresh_to(cut_mm, rulebook) = [cut_mm.to_f - rulebook.value("reckoning.regraft.lower"), 1.0].max

        # Whether fresh wood is left above the fork, with room for the saw and for binding.
        def room?(cut_mm, rulebook) = Near.at_least?(fresh_to(cut_mm, rulebook), clearance(rulebook))

        # Where it is cut: to fresh wood, and not into the fork.
        #
        # @return [Float] mm from the fork
        def at(cut_mm, rulebook) = [fresh_to(cut_mm, rulebook), clearance(rulebook)].max

        def clearance(rulebook) = rulebook.value("reckoning.cut.clearance").to_f
        private_class_method :clearance
      end
    end
  end
end
