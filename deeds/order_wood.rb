# frozen_string_literal: true

module Vestry
  module Deeds
    # Orders wood elsewhere, and notes that it came.
    module OrderWood
      MOST_STICKS = 100_000

      module_function

      # @param sticks [Hash{String=>String}] how many, by the variety's number
      # @return [Array<Records::WoodPromise>]
      # @raise [Refused]
      def call(orchard, sticks, season:, source:, wanted_by:, by:, today:)
        source = source.to_s.strip[0, 200]
        raise Refused, source: ["is wanted: a nursery, a collection, a neighbour"] if source.empty?
        raise Refused, wanted_by: ["is before today"] if wanted_by && wanted_by < today

        wanted = sticks.to_h { |id, text| [id, text.to_s.strip] }.reject { |_, text| text.empty? }
        raise Refused, sticks: ["Say of at least one variety how many sticks are ordered."] if wanted.empty?

        facts = { season: season, source: source, ordered_on: today, wanted_by: wanted_by }
        DB.transaction do
          wanted.map { |id, text| PromiseWood.call(orchard.variety!(id), { sticks: count(text), **facts }, by: by) }
        end
      end

      def count(text)
        number = Core::Values.whole(text)
        return number if number&.between?(1, MOST_STICKS)

        raise Refused, sticks: ["“#{text[0, 20]}” is not a number of sticks from 1 to #{MOST_STICKS}."]
      end

      # It came: it is in bundles from now on, or is to be. Or it did not after all.
      #
      # @raise [Refused]
      def receive(promise, on:, by:)
        raise Refused, received_on: ["That wood was not ordered."] if promise.ordered_on.nil?

        Ledger.change(promise, { received_on: on }, by: by)
      end

      # It came, and its bundle is tied: once.
      #
      # @raise [Refused]
      def came(promise, variety, on:, by:)
        current = promise.locked
        raise Refused, variety: ["is not what was ordered there"] unless current.variety_id == variety.id
        came_on = current.received_on
        raise Refused, variety: ["came on #{SaidDay.of(came_on)} already: it is tied"] if came_on

        receive(current, on: on, by: by)
      end
      private_class_method :count
    end
  end
end
