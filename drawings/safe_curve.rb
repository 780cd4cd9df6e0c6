# frozen_string_literal: true

module Vestry
  module Drawings
    # What a union bears, week by week since the graft, with today's mark: how long a shoot may grow
    # unbraced, against how long it is; or how many fruits it could carry.
    class SafeCurve
      include Axes

      WIDTH = 400.0
      HEIGHT = 230.0
      LEFT = 62.0
      RIGHT = 14.0
      TOP = 16.0
      BOTTOM = 44.0

      attr_reader :title

      # @param curve [Array<Array(Float, Float)>] week and safe length, mm
      # @param week [Float] today's
      # @param shoot_mm [Float, nil] as last measured
      # @param units [String] metric or imperial for lengths, fruits for counts
      def initialize(curve, week:, units:, title:, shoot_mm: nil)
        @curve = curve
        @week = week
        @shoot = shoot_mm
        @units = units
        @title = title
        @weeks = [curve.last.first, week].max
        @most = [curve.map(&:last).max, shoot_mm || 0, units == "fruits" ? 3 : 300].max * 1.08
      end

      def svg = Template.render("safe_curve", self)

      def line = Stroke.straight(@curve.map { |week, mm| [x(week), y(mm)] })
      def safe
        "#{line}L#{Stroke.round(x(@curve.last.first))} #{floor}L#{Stroke.round(x(@curve.first.first))} #{floor}Z"
      end
      def today_x = x(@week)
      def shoot_y = @shoot && y(@shoot)
      def too_long? = @shoot && @shoot > safe_now
      def safe_now = at(@week)
      def shoot_words = "the shoot, #{say(@shoot)}"

      def levels
        step = { "imperial" => Core::Measure::FOOT, "fruits" => 1.0 }.fetch(@units, 250.0)
        step *= 2 while @most / step > 6
        (0..(@most / step).floor).map { |i| { y: y(i * step), text: mark(i * step) } }
      end

      def marks
        step = [2, 4, 8, 13, 26].find { |each| @weeks / each <= 8 } || 52
        (0..@weeks.floor).step(step).map { |week| { x: x(week), text: week.to_s } }
      end

      def spoken
        "#{@units == 'fruits' ? 'could carry' : 'safe to'} #{carries_none? ? 'none' : say(safe_now)} today" \
          "#{", #{shoot_words}" if @shoot}"
      end

      private

      def carries_none? = @units == "fruits" && safe_now.floor.zero?

      def at(week)
        after = @curve.index { |each, _| each >= week } || @curve.size - 1
        return @curve[after].last if after.zero?

        (a, low), (b, high) = @curve[after - 1], @curve[after]
        low + (high - low) * ((week - a) / (b - a)).clamp(0, 1)
      end

      def mark(figure)
        @units == "fruits" ? say(figure) : Core::Measure.say_mark(figure, @units, most: @most)
      end
      def say(figure) = @units == "fruits" ? figure.floor.to_s : Core::Measure.say(figure, @units)
      def x(week) = along(week / @weeks.to_f)
      def y(mm) = up(mm / @most.to_f)
    end
  end
end
