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

        # The stretch of a limb that is between two thicknesses.
        #
        # @param loss [Numeric] of diameter per mm of limb
        # @param range [Array(Numeric, Numeric)] mm; the second may be nil for any thickness above the first
        # @return [Array(Float, Float), nil] from the fork; nil where no part of it is
        def stretch(base_mm, loss, length_mm, range)
          least, most = range
          from = most ? [(base_mm - most) / loss.to_f, 0.0].max : 0.0
          to = [(base_mm - least) / loss.to_f, length_mm.to_f].min
          from < to ? [from, to] : nil
        end

        # @param diameter_mm [Numeric]
        # @return [Float] how far from the fork it is so thick
        def place(base_mm, length_mm, diameter_mm, rulebook)
          (base_mm - diameter_mm) / loss(base_mm, length_mm, rulebook)
        end
      end
    end
  end
end
