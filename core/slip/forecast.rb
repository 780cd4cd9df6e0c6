# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # When the bark of a tree slips: reached already, or the dates it is likely to be.
      module Forecast
        extend Reckoning

        contract "slip", "When bark slips: reached, or 10, 50 and 90 per cent dates" do
          name :species, -> { Rulebook.shipped.species_names }
          weather :days, help: "from the biofix to today"
          weather :forecast, default: [].freeze, help: "days to come"
          list :history, series { day_of_weather }, default: [].freeze, help: "past years' days"
          list :observed_dd, item(:number, unit: "degree-days", least: 0), default: [].freeze,
               help: "at which bark was seen to slip here"
          number :offset_dd, unit: "degree-days", default: 0.0, help: "how much later this tree is than the others"
        end

        # threshold = (2 x the species' figure + the sum of those observed) / (2 + how many) + the
        # tree's offset. Reached: the first day at or over it. Else every past year is run forward
        # from the day after the last of +days+, a forecast day where there is one, at the threshold and at it
        # more and less by what is uncertain about it; nothing is claimed from fewer than four past years.
        #
        # @return [Hash] +threshold_dd+, +accumulated_dd+, +reached_on+ (nil before), +p10+, +p50+, +p90+
        #   (nil once reached, or where that one of the dates is not got to within 240 days)
        # @raise [BadInput] without a single day
        def self.call(species:, days:, forecast: [], history: [], observed_dd: [], offset_dd: 0.0,
                      rulebook: Rulebook.shipped)
          raise BadInput.new("days", "at least one day") if days.empty?

          outlook = WarmthProjection.new(days: days, forecast: forecast, history: history,
                                base_c: rulebook.value("species.#{species}.slip_base"))
          of(outlook, threshold(species, observed_dd, offset_dd, rulebook), observed_dd.size, rulebook)
        end

        # @param outlook [WarmthProjection] summed once for many trees
        # @param observed [Integer] how many observations the threshold was learned from
        def self.of(outlook, threshold, observed, rulebook)
          reached = outlook.reached_on(threshold)
          dates = reached ? { p10: nil, p50: nil, p90: nil } :
            outlook.dates(thresholds(threshold, observed, rulebook), rulebook.value("reckoning.slip.least_years"))
          { threshold_dd: threshold, accumulated_dd: outlook.accumulated, reached_on: reached, **dates }
        end

        # Three points that stand for a normal spread: its middle, and sqrt(3/2) standard deviations off. The spread is
        # that of trees, the less the more was observed, and half of it again for this spring's own.
        def self.thresholds(threshold, observed, rulebook)
          first = rulebook.value("reckoning.slip.first_guess")
          sd = rulebook.value("reckoning.slip.spread") * Math.sqrt(1.0 / (first + observed) + 0.25)
          [threshold - OFF * sd, threshold, threshold + OFF * sd]
        end
        OFF = 1.2247
        private_constant :OFF

        # The degree-days at which bark slips: the species' first figure, drawn towards what was observed here.
        # @param observed [Array<Float>] degree-days at which it was first seen to slip
        # @param offset [Float] degree-days a tree is later than its kind
        # @return [Float] degree-days
        def self.threshold(species, observed, offset, rulebook)
          weight = rulebook.value("reckoning.slip.first_guess")
          (weight * rulebook.value("species.#{species}.slip_dd") + observed.sum) / (weight + observed.size).to_f +
            offset
        end
        private_class_method :thresholds
      end
    end
  end
end
