# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # A limb cut long in winter, and back fresh on the grafting day: which are kinder cut so, and where.
      module LongCut
        module_function

        # Why a limb is kinder cut long: it is thick where it is cut, or much of the head goes with it.
        #
        # @param stock_mm [Numeric, nil] thickness at the fresh cut
        # @param share [Float, nil] of the head that goes with it
        # @return [Hash, nil] a reason: +code+ with +mm+ or +share+
        def heavy(stock_mm, share, rulebook)
          if stock_mm && Near.at_least?(stock_mm, rulebook.value("reckoning.pace.heavy_diameter"))
            { code: "heavy_diameter", mm: stock_mm }
          elsif share && Near.at_least?(share, rulebook.value("reckoning.pace.heavy_share"))
            { code: "heavy_share", share: share }
          end
        end

        # Where it is cut long when nobody says: so much beyond the fresh cut, but no further than halfway to the tip.
        #
        # @param cut_mm [Numeric] the fresh cut, from the fork
        # @param length_mm [Numeric] of the limb
        # @return [Float] mm from the fork
        def at(cut_mm, length_mm, rulebook)
          [cut_mm + rulebook.value("reckoning.pace.long_extra"), (cut_mm + length_mm.to_f) / 2].min
        end
      end
    end
  end
end
