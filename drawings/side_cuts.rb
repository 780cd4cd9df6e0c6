# frozen_string_literal: true

module Vestry
  module Drawings
    # The cuts of what is set into the side of a stem whose head stays on, or into a young shoot, to scale: what is
    # cut, the stem with its cut, and both together, bound.
    class SideCuts
      WIDTH = 560.0
      HEIGHT = 300.0
      # Where the stem with its cut stands, and the one with both.
      STEMS = [210.0, 410.0].freeze
      TOP, BOTTOM = 14.0, 266.0
      Shape = Struct.new(:kind, :d, keyword_init: true)
      Caption = Struct.new(:x, :y, :words, :anchor, keyword_init: true)

      # @param technique [String]
      # @param stub_mm [Float] of the stem
      # @param scion_mm [Float]
      # @param figures [Hash] see Core::Graft::Figures
      # @param say [Proc] a length in the orchard's units
      def initialize(technique, stub_mm:, scion_mm:, figures:, say:, **)
        @technique = technique
        @stub_mm = stub_mm
        @scion_mm = scion_mm
        @f = figures
        @say = say
      end

      def svg = Template.render("side_cuts", self)
      def width = WIDTH
      def height = HEIGHT
      def title = "The cuts of the #{Spoken.method_name(@technique)}, to scale: #{@say.call(long)} long"
      def kind = @f[:kind]

      # How long the cut is, in mm.
      def long = @f[:face] || @f[:joint]
      # Pixels a mm, so that the cut takes up the middle of the sheet.
      def scale = @scale ||= [120 / long, 4.0].min
      def px(mm) = mm * scale

      # @return [Array<Shape>] outlines in the order in which they are drawn
      def shapes = send("#{kind.tr('-', '_')}_shapes")
      # @return [Array<Caption>]
      def labels
        [80, *STEMS.map { |x| x + stem / 2 }].zip(WORDS.fetch(kind)).map do |x, words|
          Caption.new(x: x, y: 292, words: words, anchor: "middle")
        end + [Caption.new(x: STEMS[0] - 12, y: from + px(long) / 2, words: @say.call(long), anchor: "end")]
      end
      # Short enough to stand side by side on a phone.
      WORDS = { "side-slit" => ["the stick", "the slit", "behind the bark"],
                "side-tongue" => ["the stick", "the tongue", "locked together"],
                "shield" => ["bud and shield", "the T in the bark", "tied, bud free"],
                "chip" => ["bud and chip", "the notch", "tied over all but the bud"],
                "approach" => ["rooted donor", "rooted stock", "face to face, bound"] }.freeze

      private

      def stem = [px(@stub_mm), 90.0].min.clamp(16.0, 90.0)
      def stick = [px(@scion_mm), 9.0].max.clamp(9.0, 40.0)
      def from = 90.0
      def to = from + px(long)

      def shape(kind, points, close: false) = Shape.new(kind: kind, d: "#{Stroke.straight(points)}#{'Z' if close}")
      def stems = STEMS.map { |x| shape("stub", [[x, TOP], [x, BOTTOM], [x + stem, BOTTOM], [x + stem, TOP]]) }

      # A long face on a stick, from the side.
      def scion(x, y)
        shape("stick", [[x, y], [x, y + 96 + px(long)], [x + stick * 0.3, y + 100 + px(long)], [x + stick, y + 100],
                        [x + stick, y]], close: true)
      end

      def face(x, y) = shape("faced", [[x + stick, y + 100], [x + stick * 0.3, y + 100 + px(long)]])
      def ties(x, ys) = ys.map { |y| shape("measure", [[x - 4, y], [x + stem + 4, y + 3]]) }
      def even(low, high, count) = Array.new(count) { |i| low + (high - low) * i / (count - 1).to_f }

      def side_slit_shapes
        [scion(70, TOP), face(70, TOP), *stems, *crossed(STEMS[0] + stem / 2), slid(STEMS[1] + stem / 2),
         *ties(STEMS[1], even(from + 10, to, 4))]
      end

      # A cut across the bark, slanting down, and the slit from its middle.
      def crossed(x)
        [shape("cut", [[x - stick / 2, from], [x + stick / 2, from + 5]]), shape("cut", [[x, from + 2], [x, to]])]
      end

      def slid(x)
        shape("stick", [[x - stick / 2, TOP], [x - stick / 2, from + 4], [x, to], [x + stick / 2, from + 4],
                        [x + stick / 2, TOP]])
      end

      def side_tongue_shapes
        [scion(70, TOP), face(70, TOP), shape("cut", [[70 + stick * 0.8, TOP + 130], [70 + stick * 0.5, TOP + 110]]),
         *stems, *tongued(STEMS[0]), locked(STEMS[1]), *ties(STEMS[1], even(from, to, 5))]
      end

      # The slanting cut into the stock, and its tongue.
      def tongued(x)
        [shape("cut", [[x, from], [x + stem * 0.3, to]]),
         shape("cut", [[x + stem * 0.1, from + px(long) * 0.35], [x + stem * 0.2, from + px(long) * 0.5]])]
      end

      # The stick behind the stock's tongue.
      def locked(x)
        shape("stick", [[x - stick * 0.6, TOP], [x, from], [x + stem * 0.3, to], [x + stick * 0.4, from - 6],
                        [x + stick * 0.4, TOP]])
      end

      def shield_shapes
        x, set = STEMS.map { |left| left + stem / 2 }
        [*shield(80), *stems, *letter(x), *shield(set),
         *ties(STEMS[1], even(from - 6, from + px(long) * 0.28, 4) + even(from + px(long) * 0.55, to + 8, 5))]
      end

      def shield_half = [stem * 0.3, 7.0].max
      def shield(x) = [leaf(x, from, shield_half), bud(x, from + px(long) * 0.4)]
      # The T in the bark.
      def letter(x)
        [shape("cut", [[x - shield_half, from], [x + shield_half, from]]), shape("cut", [[x, from], [x, to]])]
      end

      def chip_shapes
        one, both = STEMS
        [shape("stick", chip(72), close: true), bud(72, from + px(long) * 0.45), *stems, shape("cut", chip(one)),
         shape("stick", chip(both), close: true), bud(both, from + px(long) * 0.45), *chip_ties]
      end

      # A chip, or the notch for it, from the side.
      def chip(x)
        deep = stem * 0.35
        [[x, from], [x + deep * 0.5, from + px(long) * 0.7], [x + deep, to - 6], [x, to]]
      end

      def chip_ties
        ties(STEMS[1], even(from - 6, from + px(long) * 0.3, 4) + even(from + px(long) * 0.6, to + 8, 5))
      end

      def approach_shapes
        [shape("stick", [[60, TOP], [60, BOTTOM], [60 + stick, BOTTOM], [60 + stick, TOP]]),
         shape("faced", [[60 + stick, from], [60 + stick, to]]), *stems,
         shape("faced", [[STEMS[0], from], [STEMS[0], to]]), beside(STEMS[1]),
         shape("cut", [[STEMS[1], from], [STEMS[1], to]]), *ties(STEMS[1] - stick, even(from, to, 6))]
      end

      # The donor's stem, bent to lie against the stock.
      def beside(x)
        shape("stick", [[x - stick - 20, BOTTOM], [x - stick, to], [x - stick, from], [x - stick - 14, TOP],
                        [x - 14, TOP], [x, from], [x, to], [x - 20, BOTTOM]])
      end

      # A shield seen from the front.
      def leaf(x, y, wide)
        shape("stick", [[x - wide, y], [x + wide, y], [x + wide * 0.8, y + px(long) * 0.6], [x, y + px(long)],
                        [x - wide * 0.8, y + px(long) * 0.6]], close: true)
      end

      # A bud with the stalk of its leaf for a handle.
      def bud(x, y)
        shape("faced", [[x - 4, y + 4], [x, y - 5], [x + 4, y + 4], [x + 3, y + 9], [x - 3, y + 9]], close: true)
      end
    end
  end
end
