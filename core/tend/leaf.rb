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
          year = year_at_hand(date, season, rulebook)
          year if date >= year.begin
        end

        # The same of the leaf that is on, or comes next.
        #
        # @return [Range<Date>]
        def year_at_hand(date, season, rulebook)
          falls = season.next_day(rulebook.value("care.calendar.leaf-fall"), date)
          season.next_day(rulebook.value("care.calendar.waking"), falls - 364)..falls
        end

        # Whether trees are bare on a day, and have been in leaf since another.
        #
        # @param since [Date]
        # @param season [Season]
        def fallen_since?(since, date, season, rulebook)
          then_on, next_on = [since, date].map { |day| year_at_hand(day, season, rulebook) }
          date < next_on.begin && then_on.end < next_on.end
        end

        # Whether a frost finds soft growth: from the day on which buds were seen to move, or bark opens in an ordinary
        # year at such a place, until leaves are down.
        #
        # @param place [Array(Numeric, Numeric), nil] degrees of latitude and metres above the sea; the calendar without
        # @param moved [Array<Date>] days on which its buds were seen to move
        def soft?(date, species, season, rulebook, place: nil, moved: [])
          return true if rulebook.evergreen?(species)

          year = year_of(date, season, rulebook) or return false
          date >= [pushing(year.begin, species, season, rulebook, place), *moved.select { |day| year.cover?(day) }].min
        end

        # The day on which shoots push in an ordinary year.
        #
        # @param wakes [Date] when that year's buds swell, which they do not do before
        # @param place [Array(Numeric, Numeric), nil] as soft? takes it
        # @return [Date]
        def pushing(wakes, species, season, rulebook, place)
          return season.next_day(rulebook.value("care.calendar.pushing"), wakes) unless place

          opens = Slip::Closing.opens_day(species, place[0], place[1], rulebook)
          [season.bark_day(opens.round + 1, wakes), wakes].max
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
