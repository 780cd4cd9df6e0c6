# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # How thick a limb is along its length where only its base was measured: it loses thickness evenly.
      module Taper
        module_function

        # @param base_mm [Numeric] diameter at the fork
        # @param length_mm [Numeric]
        # @return [Float] the loss of diameter per mm of limb
        def loss(base_mm, length_mm, rulebook) = rulebook.value("reckoning.cut.taper") * base_mm / length_mm.to_f

        # @param at_mm [Numeric] from the fork
        # @return [Float] the diameter there
        def diameter(base_mm, length_mm, at_mm, rulebook) = base_mm - loss(base_mm, length_mm, rulebook) * at_mm.to_f

        # @param diameter_mm [Numeric]
        # @return [Float] how far from the fork it is so thick
        def place(base_mm, length_mm, diameter_mm, rulebook)
          (base_mm - diameter_mm) / loss(base_mm, length_mm, rulebook)
        end
      end
    end
  end
end
