# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      module Workings
        # Workings of a stripped trunk and its bridges.
        module RepairWorkings
          def girdled_working(told)
            open = told.shape.open_degrees.size
            Working.of(percent(told.share),
                       "bare on #{open} of 360 degrees round, the margins running straight between " \
                       "the #{told.wound.margins.size} readings", rules: %w[reckoning.bridge.advised
                            reckoning.bridge.needed reckoning.bridge.thin])
          end

          def bridge_working(place, told)
            figures = told.figures
            Working.of(length(place[:length_mm]),
                       "#{length(place[:gap_mm])} × (1 + 8/3 × #{figures[:bow]}²) + 2 × #{length(figures[:seat_mm])} " \
                       "= #{length(place[:length_mm])}", rules: %w[reckoning.bridge.spacing reckoning.bridge.seat
                           reckoning.bridge.bow])
          end

          def carried_working(told)
            one = scion_or_stock(told.course)
            part = "the part of the bare girth within half of #{length(told.figures[:spacing_mm])} of a living #{one}"
            part = "the part that lives, as no margin is measured" unless told.wound.measured?
            Working.of(percent(told.carried),
                       "#{part}: #{counted(told.living.size, one)} of #{told.wound.seated.size}",
                       rules: %w[reckoning.bridge.spacing reckoning.bridge.alive_share])
          end
        end
      end
    end
  end
end
