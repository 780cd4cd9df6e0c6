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

        # Each past year gives a date for each threshold; one never reached is later than all.
        #
        # @param thresholds [Array<Float>] the same one with what is uncertain about it
        # @param least_years [Integer] fewer past years say nothing
        # @return [Hash] +p10+, +p50+, +p90+: dates by rank, nil where that one was never reached or is not told
        def dates(thresholds, least_years)
          return { p10: nil, p50: nil, p90: nil } if @ahead.size < least_years

          found = thresholds.flat_map { |threshold| @ahead.map { |sums| days_ahead(sums, threshold) } }
          sorted = found.compact.sort
          count = found.size + 1
          { p10: Near.floor(0.1 * count), p50: Near.ceil(0.5 * count), p90: Near.ceil(0.9 * count) }
            .transform_values { |rank| rank.between?(1, sorted.size) ? @last + sorted[rank - 1] : nil }
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

        # So many days after the last of the present ones it is there, by a past year's warmth; nil where it never is.
        def days_ahead(sums, threshold)
          wanted = threshold - @accumulated - Near::TOLERANCE
          index = sums.bsearch_index { |sum| sum >= wanted }
          index && index + 1
        end
      end
    end
  end
end
