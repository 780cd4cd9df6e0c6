# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # The day of the working year on which bark no longer lifts.
      module Closing
        extend Reckoning

        contract "closing", "When bark closes: by kind, latitude and height, and what was seen here" do
          name :species, -> { Rulebook.shipped.species_names }
          number :latitude_deg, unit: "degrees", least: -90, most: 90
          number :altitude_m, unit: "m", least: -500, most: 6000, default: 0.0
          list :observed, item(:integer, least: 0, most: 366), default: [].freeze,
               help: "days of the working year on which it no longer lifted here; 1 February is 0, 1 August in the " \
                     "south"
        end

        # rule = the kind's figure + 4 days for each degree from the latitude it was taken at + a day for each 30 m of
        # height; closes_day = (2 rule + sum of observed) / (2 + how many).
        #
        # @return [Hash] +closes_day+ (0 is 1 February, 1 August in the south), +rule_day+
        def self.call(species:, latitude_deg:, altitude_m: 0.0, observed: [], rulebook: Rulebook.shipped)
          rule = moved(rulebook.value("species.#{species}.slip_closes"), "closes_degree", species, latitude_deg,
                       altitude_m, rulebook)
          weight = rulebook.value("reckoning.slip.first_guess").to_f
          { closes_day: (weight * rule + observed.sum) / (weight + observed.size), rule_day: rule }
        end

        # The day on which bark opens where no weather is known, moved in the same way by three days a degree.
        #
        # @return [Float] day of the working year
        def self.opens_day(species, latitude_deg, altitude_m, rulebook)
          moved(rulebook.value("species.#{species}.slip_opens"), "opens_degree", species, latitude_deg, altitude_m,
                rulebook)
        end

        # By how many days spring comes here after the one that the rulebook's days are of; negative where it comes
        # before.
        #
        # @return [Integer]
        def self.spring_later(species, latitude_deg, altitude_m, rulebook)
          (opens_day(species, latitude_deg, altitude_m, rulebook) -
            rulebook.value("species.#{species}.slip_opens")).round
        end

        def self.moved(day, degree, species, latitude_deg, altitude_m, rulebook)
          away = latitude_deg.abs - rulebook.value("species.#{species}.slip_latitude")
          day + rulebook.value("reckoning.slip.#{degree}") * away +
            altitude_m / rulebook.value("reckoning.slip.day_metres").to_f
        end
        private_class_method :moved
      end
    end
  end
end
