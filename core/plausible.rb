# frozen_string_literal: true

module Vestry
  module Core
    # Whether a length is likely as it was typed, or a digit or a unit has slipped.
    module Plausible
      module_function

      # @param name [String] which length: an entry of the rulebook's plausible ranges
      # @param length [Numeric] mm
      def likely?(name, length, rulebook: Rulebook.shipped)
        Near.within?(length, *rulebook.value("plausible.#{name}")) && !slipped?(name, length, rulebook: rulebook)
      end

      # Within its range, and so near to nothing that metres were meant: "1.2" up a trunk.
      #
      # @param length [Numeric] mm
      def slipped?(name, length, rulebook: Rulebook.shipped)
        nearest = rulebook.value_or_nil("plausible.#{name}_nearest")
        !nearest.nil? && length.positive? && length < nearest
      end
    end
  end
end
