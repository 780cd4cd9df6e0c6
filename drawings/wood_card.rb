# frozen_string_literal: true

module Vestry
  module Drawings
    # How wood is judged, drawn: a card for each thing looked at before a bundle is tied.
    class WoodCard
      WIDTH = 220.0
      HEIGHT = 150.0
      NAMES = %w[growth buds health ends way].freeze

      def initialize(name)
        @name = name
      end

      attr_reader :name

      def svg = Template.render("wood_card", self)
      def width = WIDTH
      def height = HEIGHT

      def words
        { "growth" => "A shoot with its ring scar: what lies above it grew last season, what lies below is older " \
                      "and is refused",
          "buds" => "A leaf bud is single, slim, pointed and pressed to the stem; a flower bud is fat, or stands in " \
                    "a group",
          "health" => "Sound bark is taut and green under a scratch; sunken, shrivelled or spotted bark is refused",
          "ends" => "The unripe tip and the thick curved base are cut away; what is between is cut to sticks " \
                    "between buds",
          "way" => "The top is cut slanting and the base straight across, so that it is never set upside down" }
            .fetch(name)
      end

      # A bud on the upper or lower side of a shoot that lies along y.
      def bud(x, y, side, fat: false)
        up = side * (fat ? 9 : 6)
        long = fat ? 10 : 13
        "M#{x} #{y}q#{fat ? 1 : 2} #{up} #{long} #{up * 1.1}q#{fat ? 4 : -3} #{-up * 0.7} #{fat ? -1 : -4} #{-up * 1.1}"
      end
    end
  end
end
