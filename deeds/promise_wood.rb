# frozen_string_literal: true

module Vestry
  module Deeds
    # Notes wood that is promised for a season, or that the promise was withdrawn.
    module PromiseWood
      # @param values [Hash] +season+, +sticks+, +source+
      # @return [Records::WoodPromise]
      def self.call(variety, values, by:)
        Ledger.add(Records::WoodPromise, values.merge(orchard_id: variety.orchard_id, variety_id: variety.id), by: by)
      end

      # @raise [Records::Missing]
      def self.withdraw(orchard, id, by:)
        Ledger.hide(orchard.wood_promise!(id), by: by)
      end
    end
  end
end
