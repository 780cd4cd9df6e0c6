# frozen_string_literal: true

module Vestry
  module Drawings
    # Names down the side, the working year's months across, and for each name the spans of days that matter.
    class YearRows
      include TwoWidths

      WIDE = 900.0
      NARROW = 358.0
      # Where the months begin.
      LEFT, NARROW_LEFT = 190.0, 138.0
      ROW = 34.0
      TOP = 30.0
      # A letter of a name, on the mean.
      LETTER = 7.4
      Bar = Struct.new(:kind, :x, :y, :width, :height, keyword_init: true)
      YearRow = Struct.new(:name, :href, :y, :bars, :spoken, keyword_init: true)

      # @param first_month [Integer] where the drawn year begins
      def initialize(first_month, width:)
        @first = first_month
        @width = width
        @left = narrow? ? NARROW_LEFT : LEFT
      end

      def svg = Template.render("year_rows", self)
      def height = TOP + ROW * rows.size + 6
      def months
        (0..11).map do |i|
          name = Date::ABBR_MONTHNAMES[(@first + i - 1) % 12 + 1]
          { x: @left + i * month_width, text: narrow? ? name[0] : name }
        end
      end

      private

      # A name as it fits before the months; it is spoken whole.
      def short(name)
        fits = ((@left - 4) / LETTER).floor
        name.length > fits ? "#{name[0, fits - 1].rstrip}…" : name
      end

      def month_width = (width - @left - 6) / 12

      # One bar, or two where it runs over the year's end.
      #
      # @param from [String, nil] "MM-DD", and +to+ too
      # @param y [Numeric] below the row's upper edge
      def bars(kind, row, from, to, y:, height: 10)
        return [] unless from && to

        a, b = place(from), place(to)
        spans = a <= b ? [[a, b]] : [[a, 12.0], [0.0, b]]
        spans.map do |start, stop|
          Bar.new(kind: kind, x: @left + start * month_width, y: top(row) + y, height: height,
                  width: [(stop - start) * month_width, 4].max)
        end
      end

      def top(row) = TOP + row * ROW

      # In months from the year's first.
      def place(month_day)
        month, day = month_day.split("-").map(&:to_i)
        (month - @first) % 12 + (day - 1) / 31.0
      end
    end
  end
end
