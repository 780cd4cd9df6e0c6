# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # How far callus has knit, by temperature since the graft.
      module Callus
        extend Reckoning

        contract "callus", "How far callus has knit, by temperature since the graft" do
          name :species, -> { Rulebook.shipped.species_names }
          weather :days, help: "from the grafting day"
          number :offset_c, unit: "°C", default: 0.0, help: "what a cover adds"
        end

        # Hourly temperature is a cosine between the day's extremes, warmest at 15 h. The rate
        # at each hour is the beta function of Yin and others (1995), 1 at the best
        # temperature and 0 at and outside the limits; a day's units are the mean of its 24.
        #
        # @return [Hash] +daily+ (units), +units+ (their sum), +knit_on+ (Date, nil until the
        #   sum reaches the species' figure)
        def self.call(species:, days:, offset_c: 0.0, rulebook: Rulebook.shipped)
          limits = rulebook.value("species.#{species}.callus_limits").map(&:to_f)
          wanted = rulebook.value("species.#{species}.callus_units")
          sum = 0.0
          knit_on = nil
          daily = daily(days, limits, offset_c)
          days.zip(daily) do |day, units|
            sum += units
            knit_on ||= day[:date] if Near.at_least?(sum, wanted)
          end
          { daily: daily, units: sum, wanted: wanted, knit_on: knit_on }
        end

        # @param celsius [Float] °C
        # @param limits [Array(Float, Float, Float)] least, best and most, °C
        # @return [Float] 0..1
        def self.rate(celsius, limits)
          least, best, most = limits
          return 0.0 if celsius <= least || celsius >= most

          ((most - celsius) / (most - best)) * (((celsius - least) / (best - least))**((best - least) / (most - best)))
        end

        # Units of each day, for limits in °C and what a cover adds.
        #
        # @return [Array<Float>]
        def self.daily(days, limits, offset_c) = days.map { |day| of_day(day, limits, offset_c) }

        # Units of one day.
        #
        # @return [Float] 0..1
        def self.of_day(day, limits, offset_c)
          mean = (day[:min_c] + day[:max_c]) / 2 + offset_c
          swing = (day[:max_c] - day[:min_c]) / 2
          HOURS.sum { |share, hours| hours * rate(mean + swing * share, limits) } / 24
        end

        # How far of the swing each hour lies from the mean, and how many hours do: as many before the
        # warmest as after it.
        HOURS = (0..12).map { |from_warmest| [Math.cos(2 * Math::PI * from_warmest / 24),
                                              [0, 12].include?(from_warmest) ? 1 : 2] }.freeze
        private_constant :HOURS
      end
    end
  end
end
