# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # The ordinary days of a place, by which it goes until weather is known there: further from the equator and higher
      # up, wood sleeps for longer and frost comes sooner.
      module OrdinaryDays
        module_function

        # The last day on which wood is cut asleep: the calendar's; later where bark opens late enough, and never so
        # late that its buds are awake.
        #
        # @param species [String] that sleeps
        # @param from [Date] the first day on which it can be cut
        # @param season [Season]
        # @param place [Array(Numeric, Numeric)] degrees of latitude and metres above the sea
        # @return [Date] +from+ or later
        def asleep_until(species, from, season, place, rulebook)
          usual = season.next_day(rulebook.value("site.calendar.wood_to"), from)
          return usual unless rulebook.species_names.include?(species)

          opens = season.bark_day(Closing.opens_day(species, *place, rulebook).round + 1, usual)
          late = [usual, opens - rulebook.value("site.stirs_before")].max
          [[late, opens - rulebook.value("site.awake_before")].min, from].max
        end

        # The first frost of autumn: the calendar's, sooner by some days for each whole degree of latitude beyond where
        # that was taken, and a day for so many metres. Never later: nearer the equator frost comes late by the sea, and
        # inland it does not.
        #
        # @param after [Date] the first such day on or after this one
        # @param season [Season]
        # @param place [Array(Numeric, Numeric)] degrees of latitude and metres above the sea
        # @return [Date]
        def first_frost(after, season, place, rulebook)
          latitude, altitude = place
          degrees = (latitude.abs - rulebook.value("site.calendar_latitude")).truncate
          sooner = degrees * rulebook.value("site.frost_degree") +
                   (altitude / rulebook.value("reckoning.slip.day_metres").to_f).truncate
          season.next_day(rulebook.value("site.calendar.first_frost"), after) - [sooner, 0].max
        end
      end
    end
  end
end
