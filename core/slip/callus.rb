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

        # How uncertain the figures are: degrees of the air at the union, and the kind's own figure.
        SPAN_C, SPAN_UNITS = 1.0, 0.2
        private_constant :SPAN_C, :SPAN_UNITS

        # Whether a kind knits in warmth alone, whatever the method: nothing is set on it while it sleeps.
        def self.warm?(species, rulebook) = rulebook.value("reckoning.graft_day.callus_kinds").key?(species)

        # Hourly temperature is a cosine between the day's extremes, warmest at 15 h. The rate
        # at each hour is the beta function of Yin and others (1995), 1 at the best
        # temperature and 0 at and outside the limits; a day's units are the mean of its 24.
        # The span: a degree warmer and four fifths of the figure, a degree colder and six fifths of it.
        #
        # @return [Hash] +daily+ (units), +units+ (their sum), +knit_on+ (Date, nil until the
        #   sum reaches the species' figure), +knit_from+ and +knit_to+, between which it is likely to be
        def self.call(species:, days:, offset_c: 0.0, rulebook: Rulebook.shipped)
          limits = rulebook.value("species.#{species}.callus_limits").map(&:to_f)
          wanted = rulebook.value("species.#{species}.callus_units")
          daily = daily(days, limits, offset_c)
          { daily: daily, units: daily.sum(0.0), wanted: wanted, knit_on: reached(days, daily, wanted),
            knit_from: reached(days, daily(days, limits, offset_c + SPAN_C), wanted * (1 - SPAN_UNITS)),
            knit_to: reached(days, daily(days, limits, offset_c - SPAN_C), wanted * (1 + SPAN_UNITS)) }
        end

        # The first day by which so many units were gathered; nil where they were not.
        def self.reached(days, daily, wanted)
          sum = 0.0
          place = daily.index { |units| Near.at_least?(sum += units, wanted) }
          place && days[place][:date]
        end

        # @param celsius [Float] °C
        # @param limits [Array(Float, Float, Float)] least, best and most, °C
        # @return [Float] 0..1
        def self.rate(celsius, limits)
          least, best, most = limits
          return 0.0 if celsius <= least || celsius >= most

          ((most - celsius) / (most - best)) * (((celsius - least) / (best - least))**((best - least) / (most - best)))
        end

        # A day's 24 temperatures by the hour from midnight: a cosine between its extremes, warmest at 15 h.
        #
        # @return [Array<Float>] °C
        def self.hours(day)
          mean, swing = (day[:min_c] + day[:max_c]) / 2, (day[:max_c] - day[:min_c]) / 2
          SWINGS.map { |share| mean + swing * share }
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
        # The same by the hour.
        SWINGS = (0..23).map { |hour| Math.cos(2 * Math::PI * (hour - 15) / 24) }.freeze
        private_constant :HOURS, :SWINGS
      end
    end
  end
end
