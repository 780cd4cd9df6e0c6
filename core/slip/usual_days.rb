# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # Between which days a method is usual: what is logged outside them wants a reason.
      module UsualDays
        module_function

        # @param on [Date] a day of the year that is asked about
        # @param season [Season]
        # @param last_bud [Date, nil] until when a bud is asked for, which may be long after bark closed
        # @return [Array(Date, Date)]
        def of(species, method, on, season, latitude_deg:, altitude_m:, rulebook:, last_bud: nil)
          days = ->(name) { rulebook.value("reckoning.season.#{name}") }
          opens, closes = slipping(species, on, season, latitude_deg: latitude_deg, altitude_m: altitude_m,
                                   rulebook: rulebook)
          if rulebook.works_at?(method, "shoot")
            return [opens - days["before_slip"], [closes + days["buds_after"], last_bud].compact.max]
          end

          slip = rulebook.value("methods.#{method}.needs_slip")
          [slip ? opens - days["before_slip"] : season.bark_day(1, on) - days["dormant_before"],
           closes + days["after_close"]]
        end

        # Between which days bark slips in most years.
        #
        # @param on [Date] a day of the year that is asked about
        # @return [Array(Date, Date)]
        def slipping(species, on, season, latitude_deg:, altitude_m:, rulebook:)
          bark(species, [latitude_deg, altitude_m], rulebook).map { |day| season.bark_day(day.round + 1, on) }
        end

        # The days of the working year on which bark opens and closes.
        def bark(species, (latitude_deg, altitude_m), rulebook)
          [Closing.opens_day(species, latitude_deg, altitude_m, rulebook),
           Closing.call(species: species, latitude_deg: latitude_deg, altitude_m: altitude_m,
                        rulebook: rulebook)[:closes_day]]
        end
        private_class_method :bark
      end
    end
  end
end
