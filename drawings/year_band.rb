# frozen_string_literal: true

module Vestry
  module Drawings
    # The working year across the top of every page: twelve months from where the work starts,
    # the orchard's own windows on it, and today.
    class YearBand
      WIDTH = 1200.0
      LANES = { "wood" => 0, "slip" => 0, "graft" => 1, "tend" => 1, "tally" => 0 }.freeze
      Window = Struct.new(:station, :name, :from, :to, :kind, keyword_init: true)

      attr_reader :today, :start

      # @param season [Core::Season]
      # @param windows [Array<Window>] kind is +window+, +days+ or +ticks+
      def initialize(season, today, windows, href:)
        @start = season.year_start(today)
        @today = today
        @windows = windows
        @href = href
      end

      def svg = Page.render("year_band", self)

      def finish = @start >> 12

      def months
        (0..11).map do |i|
          first = @start >> i
          { name: first.strftime("%b"), x: x(first), year: (first.year if i.zero? || first.month == 1) }
        end
      end

      def today_x = x(@today)

      def bars
        @windows.select { |each| each.kind == "window" && each.to >= @start && each.from < finish }.map do |each|
          from, to = [each.from, @start].max, [each.to + 1, finish].min
          { x: x(from), width: [x(to) - x(from), 3].max, y: 24 + LANES.fetch(each.station) * 17, station: each.station,
            text: each.name, href: @href.call(each.station), spoken: "#{each.name}: #{spoken(each.from)} to #{spoken(each.to)}" }
        end
      end

      def ticks
        @windows.reject { |each| each.kind == "window" }.select { |each| each.from >= @start && each.from < finish }.map do |each|
          { x: x(each.from), y: 24 + LANES.fetch(each.station) * 17, station: each.station, href: @href.call(each.station),
            spoken: "#{each.name}: #{spoken(each.from)}" }
        end
      end

      # The same for those who do not see it.
      def description
        @windows.select { |each| each.kind == "window" }.map { |each| "#{each.name} #{spoken(each.from)} to #{spoken(each.to)}" }.join("; ")
      end

      private

      def x(day) = (day - @start).to_f / (finish - @start) * WIDTH
      def spoken(day) = day.strftime("%-d %b")
    end
  end
end
