# frozen_string_literal: true

module Vestry
  module Core
    # Comparisons of measured numbers, which tolerate the last bits of a Float:
    # two figures closer than 1e-9 are the same figure.
    module Near
      TOLERANCE = 1e-9

      module_function

      def at_least?(value, limit) = value >= limit - TOLERANCE
      def at_most?(value, limit) = value <= limit + TOLERANCE
      def within?(value, low, high) = at_least?(value, low) && at_most?(value, high)
      def equal?(one, other) = (one - other).abs <= TOLERANCE
      def floor(value) = (value + TOLERANCE).floor
      def ceil(value) = (value - TOLERANCE).ceil
    end
  end
end
