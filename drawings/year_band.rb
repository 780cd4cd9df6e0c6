# frozen_string_literal: true

module Vestry
  module Drawings
    # The working year across the top of every page: twelve months from where the work starts, the orchard's own
    # windows on it, and today. Places are shares of the width, so that lettering keeps its size at every width; the
    # links that lie on the windows are placed by columns of a few days.
    class YearBand
      HEIGHT = 60
      LANES = [13, 37].freeze
      LANE = 21
      LANE_OF = { "wood" => 0, "slip" => 0, "graft" => 1, "tend" => 1, "tally" => 0 }.freeze
      # Columns of five days; a link spans four at least, which is room for its word.
      COLUMNS = 73
      LEAST = 4
      BandWindow = Struct.new(:station, :name, :from, :to, :kind, :sure, keyword_init: true)

      attr_reader :today, :start, :current

      # @param season [Core::Season]
      # @param windows [Array<BandWindow>] kind is +window+, +days+ or +ticks+
      # @param current [String, nil] the station whose window stands open
      def initialize(season, today, windows, current: nil)
        @start = season.year_start(today)
        @today = today
        @windows = windows
        @current = current
      end

      def svg = Template.render("year_band", self)

      def finish = @finish ||= @start >> 12
      def label = "The working year: #{description}. Today is #{@today.strftime('%-d %B')}."
      def today_at = place(@today)
      def height = HEIGHT

      def months
        (0..11).map { |i| @start >> i }.map { |first| { name: first.strftime("%b"), at: place(first) } }
      end

      # What is drawn of the windows.
      def bars
        spans.map do |window, from, to|
          { station: window.station, at: place(from), wide: (place(to) - place(from)).round(3), y: lane(window),
            unsure: unsure(window, from, to), spoken: spoken(window) }
        end
      end

      def ticks
        @windows.reject { |each| each.kind == "window" }.select { |each| each.from >= @start && each.from < finish }
          .map { |each| { at: place(each.from), y: lane(each), station: each.station, spoken: spoken(each) } }
      end

      # Where each station's link lies: from which column up to which, and in which lane.
      #
      # @return [Hash{String=>Hash}] +from+, +to+, +lane+ and +spoken+
      def links
        spans.to_h do |window, from, to|
          first, last = column(from + 4), column(to - 1) + 1
          first = [[first, COLUMNS + 1 - LEAST].min, 1].max
          [window.station, { from: first, to: [last, first + LEAST].max, lane: LANE_OF.fetch(window.station) + 1,
                             spoken: spoken(window) }]
        end
      end

      # The open window, as far as it lies in the year: its two ends.
      def opening = bars.find { |bar| bar[:station] == @current }&.then { |bar| [bar[:at], bar[:at] + bar[:wide]] }

      private

      # The same for those who do not see it.
      def description = spans.map { |window, *| spoken(window) }.join("; ")

      def spoken(window)
        days = [window.from, window.to].compact.uniq.map { |day| day.strftime("%-d %b") }
        "#{window.name}: #{days.join(' to ')}"
      end

      # Windows with their first day in this year and the day after their last.
      def spans
        @spans ||= @windows.select { |each| each.kind == "window" && each.to >= @start && each.from < finish }
          .map { |each| [each, [each.from, @start].max, [each.to + 1, finish].min] }
      end

      def unsure(window, from, to)
        window.sure && window.sure > from ? (place([window.sure, to].min) - place(from)).round(3) : nil
      end

      def place(day) = ((day.jd - @start.jd) * 100.0 / (finish.jd - @start.jd)).round(3)
      def column(day) = ((day.jd - @start.jd) * COLUMNS / (finish.jd - @start.jd)) + 1
      def lane(window) = LANES[LANE_OF.fetch(window.station)]
    end
  end
end
