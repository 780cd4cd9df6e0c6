# frozen_string_literal: true

module Vestry
  module Drawings
    # What a store's thermometer said: a line over the days, with the warm and the freezing parts
    # marked, in the orchard's units.
    class StoreCurve
      include Axes
      include TwoWidths

      WIDE, NARROW = 860.0, 358.0
      # A day's name takes so much of the width.
      DAY_ROOM = 90
      HEIGHT = 240.0
      LEFT = 48.0
      RIGHT = 12.0
      TOP = 14.0
      BOTTOM = 26.0
      MOST_POINTS = 600

      # @param readings [Array<Hash>] +at+, +celsius+, in order
      # @param warm_c [Float] above which buds wake
      # @param frozen_c [Float]
      # @param units [String]
      def initialize(readings, warm_c:, frozen_c:, units:, title:, width: WIDE)
        @readings = readings
        @width = width
        @warm_c = warm_c
        @frozen_c = frozen_c
        @units = units
        @title = title
        temps = readings.map { |each| each[:celsius] }
        @low = [temps.min || 0, frozen_c - 1].min.floor
        @high = [temps.max || 5, warm_c + 2].max.ceil
        @from, @to = readings.first&.fetch(:at), readings.last&.fetch(:at)
      end

      attr_reader :title

      def svg = Template.render("store_curve", self)

      def levels
        step = @high - @low > 14 ? 5 : 2
        (@low..@high).select { |c| (c % step).zero? }.map { |c| { y: y(c), text: say(c) } }
      end

      def warm_y = y(@warm_c)
      def frozen_y = y(@frozen_c)
      def warm_words = "above #{say(@warm_c)} buds wake"
      def frozen_words = "below #{say(@frozen_c)} they freeze"

      # Thinned to what can be seen: the coldest and warmest of each stretch.
      def line
        each_slice = [(@readings.size / (MOST_POINTS / 2.0)).ceil, 1].max
        points = each_slice == 1 ? @readings : @readings.each_slice(each_slice).flat_map do |some|
          some.minmax_by { |each| each[:celsius] }.uniq.sort_by { |each| each[:at] }
        end
        Stroke.straight(points.map { |each| [x(each[:at]), y(each[:celsius])] })
      end

      # The stretches above the line where buds wake.
      def warm
        @readings.each_cons(2).select { |one, _| one[:celsius] > @warm_c }.slice_when do |(_, a), (b, _)|
          a[:at] != b[:at]
        end
                 .map do |run|
                   { x: x(run.first.first[:at]), width: [x(run.last.last[:at]) - x(run.first.first[:at]), 1.5].max }
                 end
      end

      def days
        return [] unless @from

        span = ((@to - @from) / 86_400).ceil
        step = [1, 2, 7, 14, 30].find { |each| span / each <= width / DAY_ROOM } || 30
        (0..span).step(step).map { |i| @from.to_date + i }
          .map { |day| { x: x([day.to_time.utc, @from].max), text: day.strftime("%-d %b") } }.select do |each|
          each[:x].between?(LEFT, right - 20)
        end
      end

      def spoken
        return "no readings" unless @from

        temps = @readings.map { |each| each[:celsius] }
        "from #{say(temps.min)} to #{say(temps.max)}, #{@from.strftime('%-d %B')} to #{@to.strftime('%-d %B')}"
      end

      def say(celsius) = Core::Measure.say_warmth(celsius.round(1), @units)

      private

      def x(time) = along((time - @from) / [(@to - @from), 1].max)
      def y(celsius) = up((celsius - @low) / (@high - @low).to_f)
    end
  end
end
