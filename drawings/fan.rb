# frozen_string_literal: true

module Vestry
  module Drawings
    # The warmth gathered this spring, and how each past spring would carry it on, up to the warmth
    # at which bark slips: the days between the first and the last of them are the forecast.
    class Fan
      include Axes

      WIDTH = 860.0
      HEIGHT = 284.0
      LEFT = 54.0
      RIGHT = 16.0
      TOP = 16.0
      BOTTOM = 58.0
      AFTER = 12

      # @param paths [Hash] +so_far+ and +ahead+, [date, degree-days] lists
      # @param forecast [Hash] +threshold_dd+, +reached_on+, +p10+, +p50+, +p90+
      # @param units [String] imperial: degree-days of Fahrenheit
      def initialize(paths, forecast, today:, biofix:, closes_on:, name:, units: "metric")
        @so_far = paths[:so_far]
        @ahead = paths[:ahead]
        @forecast = forecast
        @today = today
        @from = biofix
        @closes_on = closes_on
        @name = name
        @units = units
        @to = [forecast[:p90], forecast[:reached_on], today].compact.max + AFTER
        @to = [@to, closes_on].max if closes_on > today
        @high = [forecast[:threshold_dd] * 1.25, (@so_far.last&.last || 0) * 1.05].max
      end

      attr_reader :forecast

      def svg = Template.render("fan", self)
      def threshold_y = y(forecast[:threshold_dd])
      def threshold_words = "#{degree_days(forecast[:threshold_dd])} degree-days: bark slips"
      # None where the spring is yet to begin.
      def today_x = (x(@today) if @today >= @from)

      def line = Stroke.straight(@so_far.select { |date, _| date >= @from }.map { |date, sum| [x(date), y(sum)] })

      # Each past spring, as far as it is of use.
      def rays
        return [] if forecast[:reached_on]

        @ahead.map do |path|
          seen = path.take_while { |date, sum| date <= @to && sum <= @high }
          Stroke.straight([*(@so_far.last ? [[x([@so_far.last[0], @from].max), y(@so_far.last[1])]] : []),
                           *seen.map { |date, sum| [x(date), y(sum)] }])
        end
      end

      # The forecast's span, as a band from its 10 to its 90 per cent date.
      def span
        return nil unless forecast[:p10] && forecast[:p90]

        { x: x(forecast[:p10]), width: [x(forecast[:p90]) - x(forecast[:p10]), 3].max, middle: x(forecast[:p50]),
          words: { forecast[:p10] => "1 in 10", forecast[:p50] => "even", forecast[:p90] => "9 in 10" }
            .map { |date, words| { x: x(date), text: date.strftime("%-d %b"), below: words } } }
      end

      def reached
        forecast[:reached_on] && { x: x(forecast[:reached_on]), y: threshold_y,
                               text: "slips since #{forecast[:reached_on].strftime('%-d %b')}" }
      end
      def closing
        return nil unless @closes_on.between?(@from, @to)

        { x: x(@closes_on), text: "closes #{@closes_on.strftime('%-d %b')}" }
      end

      # In degrees of its own thermometer, a few of them.
      def levels
        most = degree_days(@high)
        step = [50, 100, 200, 500].find { |each| most / each < 7 } || 1000
        (0..most / step).map { |i| { y: y(i * step * @high / most), text: (i * step).to_s } }
      end

      def months
        (@from..@to).select { |date| date.day == 1 || date == @from }.uniq(&:month)
          .map { |date| { x: x(date), text: date.strftime("%b") } }.select do |month|
          month[:x] < right - 24
        end
      end

      def description
        day = ->(date) { date.strftime("%-d %B") }
        if (since = forecast[:reached_on])
          return "#{@name}: bark slips since #{day[since]}" if @today <= @closes_on

          return "#{@name}: bark slipped from #{day[since]}, and closed about #{day[@closes_on]}"
        end
        return "#{@name}: no past spring gets there" unless forecast[:p50]

        "#{@name}: #{degree_days(forecast[:accumulated_dd])} of #{degree_days(forecast[:threshold_dd])} degree-days; " \
        "bark slips between #{day[forecast[:p10]]} and #{day[forecast[:p90]]}, " \
        "as likely as not by #{day[forecast[:p50]]}"
      end

      private

      def degree_days(sum) = Core::Measure.degrees_summed(sum, @units)
      def x(date) = along((date - @from).to_f / [(@to - @from).to_i, 1].max)
      def y(sum) = up([sum, @high].min / @high)
    end
  end
end
