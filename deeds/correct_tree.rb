# frozen_string_literal: true

module Vestry
  module Deeds
    # Corrects what is known of a tree: its kind, its sizes, its name, where it stands.
    module CorrectTree
      # @param values [Hash] columns of a tree, those that were changed
      # @return [Records::Tree]
      # @raise [Refused] when another tree has that row and number; Conflict when someone else changed it
      def self.call(tree, values, by:, version: nil, why: nil)
        return tree if values.empty?

        DB.transaction do
          Records::Places.hold(tree.orchard)
          corrected = Ledger.change(tree, values, by: by, version: version, why: why)
          Records::Places.settle(tree.orchard) if (values.keys & %i[row number x_m y_m latitude longitude]).any?
          corrected
        end
      rescue Sequel::UniqueConstraintViolation
        label = "#{values[:row] || tree.row}#{values[:number] || tree.number}"
        raise Refused, number: ["#{label} is another tree already, in sight or taken away"]
      end
    end
  end
end
