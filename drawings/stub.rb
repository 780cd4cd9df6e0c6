# frozen_string_literal: true

module Vestry
  module Drawings
    # A stub seen along its axis: bark, wood, flat face, wind, where each stick goes, to scale.
    class Stub
      include StubFace

      SIZE = 264.0
      ROUND = 74.0

      # @param limb [Records::Limb]
      # @param stock_mm [Float] the diameter at the cut
      # @param faces [Array<Float>] bearings (upright) or degrees from the upper side (leaning)
      # @param upright [Boolean]
      # @param technique [String, nil] how the sticks are set; under bark where it is not said
      # @param scion_mm [Float, nil] how thick the sticks are drawn
      # @param close [Boolean] without room about it
      def initialize(limb, stock_mm:, faces:, upright:, technique: nil, scion_mm: nil, close: false)
        @limb = limb
        @orchard = limb.orchard
        @stock_mm = stock_mm
        @faces = faces
        @upright = upright
        @technique = technique
        @scion_mm = scion_mm || usual_mm(stock_mm)
        @close = close
        @scale = ROUND * 2 / stock_mm
      end

      def svg = Template.render("stub", self)

      def size = SIZE
      def box = @close ? [30, 4, SIZE.to_i - 76, SIZE.to_i - 4] : [0, 0, SIZE.to_i, SIZE.to_i]
      def middle = SIZE / 2 - 8
      def bark_radius = ROUND
      def wood_radius = [ROUND - Records::CoreInputs.bark(@limb, 2 * ROUND / @scale) * @scale, 4].max
      def title
        what = Core::Rulebook.shipped.heads?(@technique) ? "The stub of" : "Where it is set on"
        "#{what} #{@limb.label}, #{@upright ? 'from above' : 'seen along the limb'}"
      end

      def top_words = @upright ? "N" : "upper side"

      def description
        where = @faces.map do |deg|
          @upright ? "#{deg.round % 360} degrees from north" : Spoken.on_leaning(deg)
        end
        "#{set_words}: #{where.join(', ')}"
      end

      def set_words
        book = Core::Rulebook.shipped
        return "The rooted plant" if @technique && book.method_fact(@technique, "donor")

        Spoken.counted(@faces.size, @technique && book.works_at?(@technique, "shoot") ? "bud" : "stick")
      end

      def sticks
        disc = [@scion_mm * @scale / 2, 4].max
        from = seat(wood_radius, disc)
        @faces.map do |deg|
          x, y = around(deg, from)
          lx, ly = around(deg, [from - disc - 16, 0].max)
          { x: x, y: y, r: disc, text: as_thick? ? "" : "#{deg.round}°", tx: lx, ty: ly + (split ? 20 : 4) }
        end
      end

      # The flatter face, as a chord outside the bark.
      def flat
        deg = flat_at or return nil
        a, b = around(deg - 28, ROUND + 6), around(deg + 28, ROUND + 6)
        { path: Stroke.straight([a, b]), at: around(deg, ROUND + 24), deg: deg }
      end

      def wind
        return nil unless @upright && @orchard.wind_from_deg

        from = @orchard.wind_from_deg
        tail, head = around(from, ROUND + 40), around(from, ROUND + 14)
        "#{Stroke.straight([tail, head])}" \
        "#{Stroke.straight([around(from + 5, ROUND + 22), head, around(from - 5, ROUND + 22)])}"
      end

      # A ruler below, in the orchard's units.
      def ruler
        mm, words = @orchard.units == "imperial" ? [25.4, "1 in"] : [20.0, "20 mm"]
        mm, words = @orchard.units == "imperial" ? [12.7, "1/2 in"] : [10.0, "10 mm"] if mm * @scale > 120
        { x: middle - mm * @scale / 2, width: mm * @scale, text: words }
      end
    end
  end
end
