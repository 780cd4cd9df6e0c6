# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # When an ordinary year's leaf is on, by the calendar of aftercare. +later+ is by how many days spring comes after
      # the calendar's at a place.
      module Leaf
        module_function

        # By how many days spring comes later for a kind at a place than in the calendar.
        #
        # @param place [Array(Numeric, Numeric), nil] degrees of latitude and metres above the sea
        # @return [Integer] negative where it comes before; 0 where the place is not known, and of what has no winter
        def later(species, place, rulebook)
          place && !rulebook.evergreen?(species) ? Slip::Closing.spring_later(species, *place, rulebook) : 0
        end

        # From when buds swell until leaves are down.
        #
        # @param season [Season]
        # @return [Range<Date>, nil] nil where trees are bare on that day
        def year_of(date, season, rulebook, later = 0)
          year = year_at_hand(date, season, rulebook, later)
          year if date >= year.begin
        end

        # The same of the leaf that is on, or comes next.
        #
        # @return [Range<Date>]
        def year_at_hand(date, season, rulebook, later = 0)
          falls = season.next_day(rulebook.value("care.calendar.leaf-fall"), date)
          (season.next_day(rulebook.value("care.calendar.waking"), falls - 364) + later)..falls
        end

        # Whether trees are bare on a day, and have been in leaf since another.
        #
        # @param since [Date]
        # @param season [Season]
        def fallen_since?(since, date, season, rulebook, later = 0)
          then_on, next_on = [since, date].map { |day| year_at_hand(day, season, rulebook, later) }
          date < next_on.begin && then_on.end < next_on.end
        end

        # Whether a frost finds soft growth: from the day on which buds were seen to move, or bark opens in an ordinary
        # year at such a place, until leaves are down.
        #
        # @param place [Array(Numeric, Numeric), nil] degrees of latitude and metres above the sea; the calendar without
        # @param moved [Array<Date>] days on which its buds were seen to move
        def soft?(date, species, season, rulebook, place: nil, moved: [])
          return true if rulebook.evergreen?(species)

          year = year_of(date, season, rulebook, later(species, place, rulebook)) or return false
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
        def turns(date, season, rulebook, later = 0)
          { "waking" => later, "leaf-fall" => 0 }.map do |name, days|
            season.next_day(rulebook.value("care.calendar.#{name}"), date + 1 - days) + days
          end
        end
      end
    end
  end
end
