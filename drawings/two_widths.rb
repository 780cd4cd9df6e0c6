# frozen_string_literal: true

module Vestry
  module Drawings
    # A drawing that is laid out for a wide screen and again for a phone (WIDE and NARROW pixels, as +width+): a page
    # holds both, and its style shows one.
    module TwoWidths
      def self.included(drawing) = drawing.extend(Both)

      # How both are made.
      module Both
        # @return [String] SVG of both
        def both(*about, **facts) = [self::WIDE, self::NARROW].map { |px| new(*about, width: px, **facts).svg }.join
      end

      attr_reader :width

      def narrow? = width < self.class::WIDE
      # The class that a page's style goes by.
      def fits = narrow? ? "narrow" : "wide"
    end
  end
end
