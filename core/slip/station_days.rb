# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # Days of weather from what a station measured: one line a day, or many through each.
      module StationDays
        module_function

        # The least and the greatest of a day, its rain added up, its strongest gust. A day of which too little was
        # measured is left out: its least and greatest may lie in what is missing. Rain of which some is missing is not
        # known, and neither is what was measured at no time.
        #
        # @param readings [Array<Hash>] +line+; +day+ [Date, nil]; +min_c+, +max_c+, +temperature_c+, +rain_mm+ and
        #   +gust_ms+ [Float, nil]
        # @return [Array<Hash>] in the order of the days: +line+ of its first reading, +day+, +min_c+, +max_c+,
        #   +rain_mm+, +gust_ms+, and +left_out+ as [had, wanted] readings where it is
        def call(readings, rulebook:)
          dayless, dated = readings.partition { |reading| reading[:day].nil? }
          days = dated.group_by { |reading| reading[:day] }
          usual = usual(days)
          least = usual * rulebook.value("reckoning.station.whole_day")
          found = days.sort_by(&:first).map { |day, some| of_day(day, some, usual, least) }
          (found + dayless.map { |reading| { **reading, left_out: nil } }).sort_by { |day| day[:line] }
        end

        # How many readings most days have.
        def usual(days) = days.values.map(&:size).tally.max_by { |size, many| [many, size] }&.first.to_i

        def of_day(day, some, usual, least)
          warmths = [%i[min_c temperature_c], %i[max_c temperature_c]].map { |names| all(some, *names) }
          known = some.count { |reading| reading.values_at(:min_c, :max_c, :temperature_c).any? }
          rain = some.map { |reading| reading[:rain_mm] }
          { line: some.first[:line], day: day, min_c: warmths[0].min, max_c: warmths[1].max,
            rain_mm: (rain.sum.round(3) if rain.all?), gust_ms: all(some, :gust_ms).max,
            left_out: ([known, usual] if usual > 1 && known < least) }
        end

        def all(some, *names) = some.flat_map { |reading| reading.values_at(*names) }.compact
        private_class_method :usual, :of_day, :all
      end
    end
  end
end
