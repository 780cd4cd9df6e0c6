# frozen_string_literal: true

module Vestry
  module Drawings
    # Varieties through the months: when each blooms and when it is picked.
    class VarietyYear
      WIDTH = 900.0
      LEFT = 190.0
      ROW = 34.0
      TOP = 30.0
      Bar = Struct.new(:x, :width, keyword_init: true)
      VarietyRow = Struct.new(:name, :href, :y, :bloom, :harvest, :spoken, keyword_init: true)

      # @param season [Core::Season] where the drawn year begins
      # @param href [Proc] a variety to its address
      def initialize(varieties, season, href: ->(_) {})
        @varieties = varieties
        @first = season.first_month
        @href = href
      end

      def svg = Template.render("variety_year", self)
      def width = WIDTH
      def height = TOP + ROW * @varieties.size + 6
      def left = LEFT
      def months
        (0..11).map { |i| { x: LEFT + i * month_width, text: Date::ABBR_MONTHNAMES[(@first + i - 1) % 12 + 1] } }
      end

      def rows
        @varieties.each_with_index.map do |variety, i|
          VarietyRow.new(name: variety.name, href: @href.call(variety), y: TOP + i * ROW,
                  bloom: bars(variety.bloom_from, variety.bloom_to),
                  harvest: bars(variety.harvest_from, variety.harvest_to),
                  spoken: "#{variety.name}: blooms #{variety.bloom_from || 'unknown'} " \
                          "to #{variety.bloom_to || 'unknown'}, picked #{variety.harvest_from || 'unknown'} " \
                          "to #{variety.harvest_to || 'unknown'}")
        end
      end

      private

      def month_width = (WIDTH - LEFT - 6) / 12

      # One bar, or two where it runs over the year's end.
      def bars(from, to)
        return [] unless from && to

        a, b = place(from), place(to)
        spans = a <= b ? [[a, b]] : [[a, 12.0], [0.0, b]]
        spans.map { |start, stop| Bar.new(x: LEFT + start * month_width, width: [(stop - start) * month_width, 4].max) }
      end

      # In months from the year's first.
      def place(month_day)
        month, day = month_day.split("-").map(&:to_i)
        (month - @first) % 12 + (day - 1) / 31.0
      end
    end
  end
end
