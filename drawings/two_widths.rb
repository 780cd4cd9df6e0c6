# frozen_string_literal: true

module Vestry
  module Drawings
    # A drawing that is laid out for a wide place and again for a narrow one (WIDE and NARROW pixels, as +width+): a
    # page holds both, and its style shows the one that fits where it stands.
    module TwoWidths
      def self.included(drawing) = drawing.extend(Both)

      # How both are made.
      module Both
        # @return [String] a part of a page with the SVG of both
        def both(*about, **facts)
          drawn = [self::WIDE, self::NARROW].map { |px| new(*about, width: px, **facts).svg }
          %(<div class="two-widths">#{drawn.join}</div>)
        end
      end

      attr_reader :width

      def narrow? = width < self.class::WIDE
      # The class that a page's style goes by.
      def fits = narrow? ? "narrow" : "wide"
    end
  end
end
