# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # Between which days a method is usual: what is logged outside them wants a reason.
      module UsualDays
        module_function

        # @param on [Date] a day of the year that is asked about
        # @param season [Season]
        # @return [Array(Date, Date)]
        def of(species, method, on, season, latitude_deg:, altitude_m:, rulebook:)
          opens = season.bark_day(Closing.opens_day(species, latitude_deg, altitude_m, rulebook).round + 1, on)
          closes = season.bark_day(Closing.call(species: species, latitude_deg: latitude_deg, altitude_m: altitude_m,
                                                rulebook: rulebook)[:closes_day].round + 1, on)
          days = ->(name) { rulebook.value("reckoning.season.#{name}") }
          if rulebook.works_at?(method, "shoot") then [opens - days["before_slip"], closes + days["buds_after"]]
          elsif rulebook.value("methods.#{method}.needs_slip")
            [opens - days["before_slip"], closes + days["after_close"]]
          else
            [season.bark_day(1, on) - days["dormant_before"], closes + days["after_close"]]
          end
        end
      end
    end
  end
end
