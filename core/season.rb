# frozen_string_literal: true

require "date"

module Vestry
  module Core
    # The working year of an orchard. It starts where the work does: in November in the
    # north, in May in the south, half a year on.
    class Season
      SHIFT = 6

      # @param southern [Boolean] whether the orchard lies south of the equator
      def initialize(southern:)
        @southern = southern
        freeze
      end

      def southern? = @southern

      # The day a calendar rule means here: a northern "MM-DD", shifted half a year in the south.
      #
      # @param month_day [String] "MM-DD" as it stands in the rulebook, for the north
      # @param from [Date] the first such day on or after this one is returned
      # @return [Date]
      def next_day(month_day, from)
        month, day = month_day.split("-").map(&:to_i)
        [0, 1].each do |years|
          candidate = local(from.year + years, month, day)
          return candidate if candidate >= from
        end
      end

      # The first day of the working year that +date+ falls in.
      def year_start(date)
        start = Date.new(date.year, first_month, 1)
        start > date ? start << 12 : start
      end

      # A day of the working year that runs: the day something was made, where that was in it.
      def at_hand(made_on, today) = [made_on, year_start(today)].max

      # The season a grafting day belongs to, named by the year its spring falls in.
      #
      # @return [Integer]
      def name_of(date) = date.year + (date.month < first_month ? 0 : 1) - (@southern ? 1 : 0)

      # The season whose growth a count measures: that of the last summer, until buds swell again.
      #
      # @param waking [String] the day on which they do, as "MM-DD" for the north
      # @return [Integer]
      def name_counted(date, waking)
        date < next_day(waking, year_start(date)) ? name_of(date) - 1 : name_of(date)
      end

      # The working year of a season by its name.
      #
      # @param name [Integer]
      # @return [Range<Date>] its first day up to, and without, the next one's
      def span(name)
        from = Date.new(name - (@southern ? 0 : 1), first_month, 1)
        from...(from >> 12)
      end

      # Day +number+ of the bark's year, counted from the biofix: 1 February, 1 August in the south.
      def bark_day(number, date)
        Date.new(@southern ? year_start(date).year : year_start(date).year + 1, @southern ? 8 : 2, 1) + number - 1
      end

      # How many days after the biofix of its working year a day lies: 0 is 1 February, 1 August in the south.
      #
      # @return [Integer]
      def bark_number(date) = (date - bark_day(1, date)).to_i

      # @return [Integer] the month the working year begins in: 11 in the north, 5 in the south
      def first_month = @southern ? 5 : 11

      private

      def local(year, month, day)
        month = (month - 1 + SHIFT) % 12 + 1 if @southern
        Date.new(year, month, [day, Date.new(year, month, -1).day].min)
      end
    end
  end
end
