# frozen_string_literal: true

module Vestry
  module Drawings
    # The working year across the top of every page: twelve months from where the work starts,
    # the orchard's own windows on it, and today.
    class YearBand
      WIDE = 1280.0
      NARROW = 390.0
      LANES = { "wood" => 0, "slip" => 0, "graft" => 1, "tend" => 1, "tally" => 0 }.freeze
      BandWindow = Struct.new(:station, :name, :from, :to, :kind, :sure, keyword_init: true)

      attr_reader :today, :start, :windows

      # @param season [Core::Season]
      # @param windows [Array<BandWindow>] kind is +window+, +days+ or +ticks+
      def initialize(season, today, windows)
        @start = season.year_start(today)
        @today = today
        @windows = windows
      end

      # @param width [Float] WIDE with the windows named on it, or NARROW for a phone
      def svg(width = WIDE) = Template.render("year_band", Strip.new(self, width))

      def finish = @finish ||= @start >> 12
      def days = @days ||= finish.jd - @start.jd

      # The same for those who do not see it.
      def description
        @windows.select { |each| each.kind == "window" }
          .map { |each| "#{each.name} #{spoken(each.from)} to #{spoken(each.to)}" }.join("; ")
      end

      def spoken(day) = day.strftime("%-d %b")

      # The band at one width.
      class Strip
        TOP = 22
        LANE = 19

        def initialize(band, width)
          @band = band
          @width = width
        end

        def width = @width.to_i
        def height = TOP + LANE * 2 + 3
        def narrow? = @width < WIDE
        def today_x = x(@band.today)
        def label = "The working year: #{@band.description}. Today is #{@band.today.strftime('%-d %B')}."

        def months
          (0..11).map { |i| @band.start >> i }.map do |first|
            { name: first.strftime(narrow? ? "%b" : "%B")[0, narrow? ? 1 : 9], x: x(first) }
          end
        end

        def bars
          @band.windows.select { |each| each.kind == "window" && each.to >= @band.start && each.from < @band.finish }
            .map do |each|
            from, to = [each.from, @band.start].max, [each.to + 1, @band.finish].min
            { x: x(from), width: [x(to) - x(from), 3].max, unsure: each.sure && each.sure > from ?
              x([each.sure, to].min) - x(from) : nil, y: lane(each), station: each.station, text: each.name,
              spoken: "#{each.name}: #{@band.spoken(each.from)} to #{@band.spoken(each.to)}" }
          end
        end

        def ticks
          @band.windows.reject { |each| each.kind == "window" }.select { |each| each.from >= @band.start &&
            each.from < @band.finish }.map do |each|
            { x: x(each.from), y: lane(each), station: each.station,
              spoken: "#{each.name}: #{@band.spoken(each.from)}" }
          end
        end

        private

        def x(day) = (day.jd - @band.start.jd).fdiv(@band.days) * @width
        def lane(window) = TOP + LANES.fetch(window.station) * LANE
      end
    end
  end
end
