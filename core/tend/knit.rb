# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # The day a union's callus has knit: by the temperatures since it was made, carried on at the pace
      # of the last fortnight where they are not in yet, and by the calendar where none is known.
      module Knit
        module_function

        # @param weather [Array<Hash>] days from the grafting day, each +date+, +min_c+, +max_c+
        # @param offset_c [Float] what a cover adds
        # @return [Hash] +on+, +basis+ (temperature, temperature-so-far, calendar), +share+ of the way (nil by calendar)
        def of(species, made_on, weather, rulebook, offset_c: 0.0)
          by_temperature(species, weather, rulebook, offset_c) || { on: made_on + rulebook.value("species.#{species}.knit_days"), basis: "calendar", share: nil }
        end

        def by_temperature(species, weather, rulebook, offset_c)
          return nil if weather.empty?

          callus = Slip::Callus.call(species: species, days: weather, offset_c: offset_c, rulebook: rulebook)
          return { on: callus[:knit_on], basis: "temperature", share: 1.0 } if callus[:knit_on]

          recent = callus[:daily].last(rulebook.value("care.figures.recent_days"))
          pace = recent.sum / recent.size
          return nil unless pace.positive?

          { on: weather.last[:date] + Near.ceil((callus[:wanted] - callus[:units]) / pace), basis: "temperature-so-far", share: callus[:units] / callus[:wanted] }
        end
        private_class_method :by_temperature
      end
    end
  end
end
