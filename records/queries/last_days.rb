# frozen_string_literal: true

module Vestry
  module Records
    # The last sensible days of a season: for another graft on a failed stub, and for a bud on its regrowth. Whatever
    # speaks of them reads them here, and they come from the same reckoning as every stub's window.
    class LastDays
      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @spring = orchard.bark_forecast(today)
        @book = orchard.rulebook
      end

      # @param from [Date] a day of the season that is asked about
      # @return [Date]
      def regraft(species, from = @today) = in_season((@regraft ||= {})[species] ||= regraft_now(species), from)

      # @return [Date] a bud needs neither bark that slips nor a cool summer
      def bud(from = @today) = in_season(@bud ||= bud_now, from)

      # The days in which the regrowth of a failed graft can be budded: from ripe buds, or from the day after the last
      # for another graft.
      #
      # @return [Range<Date>]
      def budding(species, from = @today)
        [ripe_buds(from), regraft(species, from) + 1].max..bud(from)
      end

      # The day from which this summer's buds are ripe.
      def ripe_buds(from = @today) = @orchard.season.next_day(@book.value("care.calendar.late-summer"), from)

      private

      def regraft_now(species)
        Core::Slip::Window.call(species: species, opens_on: @spring.biofix, bark_closes_on: @spring.closes_on(species),
                                heat_on: @spring.heat_on, first_frost_on: @spring.first_frost_on,
                                rulebook: @book)[:closes_on]
      end

      def bud_now
        Core::Slip::Window.call(species: nil, opens_on: @spring.biofix, first_frost_on: @spring.first_frost_on,
                                kind: "bud", rulebook: @book)[:closes_on]
      end

      # The same day of another season's year.
      def in_season(day, from)
        day >> 12 * (@orchard.season.name_of(from) - @orchard.season.name_of(@today))
      end
    end
  end
end
