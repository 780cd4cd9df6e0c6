# frozen_string_literal: true

module Vestry
  module Core
    # Comparisons of measured numbers, which tolerate the last bits of a Float:
    # two figures closer than 1e-9 are the same figure.
    module Near
      # Below any length that is ever measured, above what a sum of Floats strays.
      TOLERANCE = 1e-9

      module_function

      # @return [Boolean] not below the limit
      def at_least?(value, limit) = value >= limit - TOLERANCE
      # @return [Boolean] not above the limit
      def at_most?(value, limit) = value <= limit + TOLERANCE
      # @return [Boolean] from low to high, both included
      def within?(value, low, high) = at_least?(value, low) && at_most?(value, high)
      # @return [Boolean] the same figure
      def equal?(one, other) = (one - other).abs <= TOLERANCE
      # The whole number below, unless the figure is a hair under the next.
      def floor(value) = (value + TOLERANCE).floor
      # The whole number above, unless the figure is a hair over the last.
      def ceil(value) = (value - TOLERANCE).ceil
    end
  end
end
