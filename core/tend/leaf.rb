# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # When an ordinary year's leaf is on, by the calendar of aftercare.
      module Leaf
        module_function

        # From when buds swell until leaves are down.
        #
        # @param season [Season]
        # @return [Range<Date>, nil] nil where trees are bare on that day
        def year_of(date, season, rulebook)
          falls = season.next_day(rulebook.value("care.calendar.leaf-fall"), date)
          wakes = season.next_day(rulebook.value("care.calendar.waking"), falls - 364)
          wakes..falls if date >= wakes
        end

        # Whether a frost finds soft growth: from the day on which buds were seen to move, or shoots push in an ordinary
        # year, until leaves are down.
        #
        # @param moved [Array<Date>] days on which its buds were seen to move
        def soft?(date, season, rulebook, moved: [])
          year = year_of(date, season, rulebook) or return false
          date >= [season.next_day(rulebook.value("care.calendar.pushing"), year.begin),
                   *moved.select { |day| year.cover?(day) }].min
        end

        # The next days on which leaf comes on or is down.
        #
        # @return [Array<Date>] after +date+
        def turns(date, season, rulebook)
          %w[waking leaf-fall].map { |name| season.next_day(rulebook.value("care.calendar.#{name}"), date + 1) }
        end
      end
    end
  end
end
