# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # When there is still time to make a failed graft again.
      module RegraftDay
        module_function

        # The last day of a season on which it is sensible.
        #
        # @param season [Season]
        # @param from [Date] a day of that season
        # @return [Date]
        def last(season, from, rulebook)
          season.next_day(rulebook.value("care.calendar.last-regraft"), season.year_start(from))
        end
      end
    end
  end
end
