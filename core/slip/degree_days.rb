# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # Warmth above a base, day by day.
      module DegreeDays
        extend Reckoning

        contract "degree-days", "Warmth above a base, day by day" do
          weather :days
          number :base_c, unit: "°C"
          number :upper_c, unit: "°C", optional: true, help: "above which warmth adds nothing"
        end

        # Single sine (Baskerville and Emin, Ecology 50, 1969), horizontal cut-off: a day's
        # degree-days above the base less those above the upper limit.
        #
        # @return [Hash] +daily+ and +total+, in degree-days
        # @raise [BadInput] when the limits are crossed
        def self.call(days:, base_c:, upper_c: nil, rulebook: nil)
          raise BadInput.new("upper_c", "a number in °C above base_c, #{base_c}") if upper_c && upper_c <= base_c

          daily = days.map do |day|
            of_day(day[:min_c], day[:max_c], base_c) - (upper_c ? of_day(day[:min_c], day[:max_c], upper_c) : 0.0)
          end
          { daily: daily, total: daily.sum(0.0) }
        end

        # One day's degree-days above a base.
        #
        # @param min [Float] °C
        # @param max [Float] °C, from min up
        # @return [Float] degree-days
        def self.of_day(min, max, base)
          return 0.0 if max <= base

          mean = (min + max) / 2
          return mean - base if min >= base

          swing = (max - min) / 2
          angle = Math.asin(((base - mean) / swing).clamp(-1.0, 1.0))
          ((mean - base) * (Math::PI / 2 - angle) + swing * Math.cos(angle)) / Math::PI
        end
      end
    end
  end
end
