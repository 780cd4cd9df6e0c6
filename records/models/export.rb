# frozen_string_literal: true

module Vestry
  module Records
    # An orchard packed for download, or on its way to be.
    class Export < Sequel::Model(DB[:exports])
      include Advances
      many_to_one :orchard
      SHOWN = 5

      def self.of(orchard) = where(orchard_id: orchard.id).reverse_order(:id).limit(SHOWN).all

      # @raise [Missing]
      def self.of!(orchard, id)
        first(orchard_id: orchard.id, id: RowNumber.read(id)) || raise(Missing, "no such export here")
      end

      # @raise [Missing] when this orchard has no such export that is whole
      def self.whole!(orchard, id)
        of!(orchard, id).then { |export| export.state == "done" ? export : raise(Missing, "no such export here") }
      end

      def over? = %w[done failed].include?(state)

      # One that is under way, begun within the last hour.
      def self.under_way(orchard)
        where(orchard_id: orchard.id, state: %w[waiting running])
          .where { created_at > Sequel.lit("now() - interval '1 hour'") }.first
      end

      # Those that are whole, but for the latest of an orchard.
      def self.whole_but(orchard_id, latest)
        where(orchard_id: orchard_id, state: "done").reverse_order(:id).offset(latest).all
      end

      # Those that came to their end before a moment.
      def self.ended_before(time) = where { created_at < time }.where(state: %w[done failed]).all
    end
  end
end
