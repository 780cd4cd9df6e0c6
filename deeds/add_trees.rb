# frozen_string_literal: true

module Vestry
  module Deeds
    # Plants trees in the record: one, or a row at once.
    module AddTrees
      MOST = 500

      # @param values [Hash] columns of a tree; +first+ and +last+ number them
      # @return [Array<Records::Tree>]
      # @raise [Refused] when a number is taken
      def self.call(orchard, values, by:)
        numbers = (values[:first]..(values[:last] || values[:first])).to_a
        raise Refused, last: ["is not below the first number"] if numbers.empty?
        raise Refused, last: ["at most #{MOST} trees at once; bring more in as a file"] if numbers.size > MOST

        DB.transaction do
          # Places are settled over the whole orchard: two who add trees at once wait for each other.
          Records::Places.hold(orchard)
          taken = Records::TreeQueries.taken(orchard, values[:row], numbers)
          if taken.any?
            raise Refused, first: ["#{taken.first(8).map { |number| "#{values[:row]}#{number}" }.join(', ')} " \
                                   "#{taken.size == 1 ? 'stands' : 'stand'} there already"]
          end

          trees = numbers.map do |number|
            Ledger.add(Records::Tree, values.except(:first, :last).merge(orchard_id: orchard.id, number: number),
                       by: by)
          end
          Records::Places.settle(orchard)
          trees
        end
      end
    end
  end
end
