# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # One species' warmth this spring, and how each past spring would carry it on: summed once,
      # and asked for as many thresholds as there are trees.
      class WarmthProjection
        FURTHEST = 240

        attr_reader :accumulated

        # @param days [Array<Hash>] +date+, +min_c+, +max_c+ from the biofix to today
        # @param forecast [Array<Hash>] days to come
        # @param history [Array<Array<Hash>>] past years' days
        # @param base_c [Float]
        def initialize(days:, forecast:, history:, base_c:)
          @days = days.sort_by { |day| day[:date] }
          @base = base_c
          @sums = sums(@days)
          @accumulated = @sums.last || 0.0
          @last = @days.last[:date]
          coming = forecast.to_h { |day| [day[:date], warmth(day)] }
          # Each day ahead: what is forecast for it, and where it stands in the calendar.
          @coming = (1..FURTHEST).map { |i| (@last + i).then { |date| [coming[date], date.month * 100 + date.day] } }
          @ahead = history.map { |year| carry_on(year) }
        end

        # @return [Array<Array(Date, Float)>] the warmth gathered by each day so far
        def so_far = @days.map { |day| day[:date] }.zip(@sums)

        # @return [Array<Array<Array(Date, Float)>>] for each past year, what it would come to by each day ahead
        def ahead = @ahead.map { |sums| sums.each_with_index.map { |sum, i| [@last + i + 1, @accumulated + sum] } }

        # The first day at or over a threshold, when it has come.
        def reached_on(threshold)
          index = @sums.bsearch_index { |sum| Near.at_least?(sum, threshold) }
          index && @days[index][:date]
        end

        # @return [Hash] +p10+, +p50+, +p90+: dates by nearest rank over the years that get there, nil
        #   where none does
        def dates(threshold)
          found = @ahead.filter_map do |sums|
            index = sums.bsearch_index { |sum| Near.at_least?(@accumulated + sum, threshold) }
            index && @last + index + 1
          end.sort
          { p10: rank(found, 0.1), p50: rank(found, 0.5), p90: rank(found, 0.9) }
        end

        private

        def sums(days)
          sum = 0.0
          DegreeDays.call(days: days, base_c: @base)[:daily].map { |each| sum += each }
        end

        # What gathers from tomorrow on, day by day: the forecast's day, else the past year's same
        # calendar day; a day that is missing adds nothing.
        def carry_on(year)
          same = year.to_h { |day| [day[:date].month * 100 + day[:date].day, day] }
          sum = 0.0
          @coming.map do |forecast, calendar|
            sum += forecast || (same[calendar] ? warmth(same[calendar]) : 0.0)
          end
        end

        def warmth(day) = DegreeDays.of_day(day[:min_c], day[:max_c], @base)

        def rank(dates, share) = dates.empty? ? nil : dates[[Near.ceil(share * dates.size), 1].max - 1]
      end
    end
  end
end
