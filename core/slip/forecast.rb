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
        # from the day after the last of +days+, a forecast day where there is one.
        #
        # @return [Hash] +threshold_dd+, +accumulated_dd+, +reached_on+ (nil before), +p10+, +p50+, +p90+
        #   (nil once reached, or where no year gets there within 240 days)
        # @raise [BadInput] without a single day
        def self.call(species:, days:, forecast: [], history: [], observed_dd: [], offset_dd: 0.0,
                      rulebook: Rulebook.shipped)
          raise BadInput.new("days", "at least one day") if days.empty?

          outlook = WarmthProjection.new(days: days, forecast: forecast, history: history,
                                base_c: rulebook.value("species.#{species}.slip_base"))
          of(outlook, threshold(species, observed_dd, offset_dd, rulebook))
        end

        # @param outlook [WarmthProjection] summed once for many trees
        def self.of(outlook, threshold)
          reached = outlook.reached_on(threshold)
          dates = reached ? { p10: nil, p50: nil, p90: nil } : outlook.dates(threshold)
          { threshold_dd: threshold, accumulated_dd: outlook.accumulated, reached_on: reached, **dates }
        end

        # The degree-days at which bark slips: the species' first figure, drawn towards what was observed here.
        # @param observed [Array<Float>] degree-days at which it was first seen to slip
        # @param offset [Float] degree-days a tree is later than its kind
        # @return [Float] degree-days
        def self.threshold(species, observed, offset, rulebook)
          weight = rulebook.value("reckoning.slip.first_guess")
          (weight * rulebook.value("species.#{species}.slip_dd") + observed.sum) / (weight + observed.size).to_f +
            offset
        end
      end
    end
  end
end
