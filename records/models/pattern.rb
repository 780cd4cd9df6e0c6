# frozen_string_literal: true

module Vestry
  module Records
    # One plan laid over many trees, and what it came to on each.
    class Pattern < Sequel::Model(DB[:patterns])
      include Advances
      many_to_one :orchard

      def over? = %w[done failed].include?(state)
      def outcomes = outcome.to_a

      # The one that was sent with a key; nil without one.
      def self.sent_as(orchard_id, key) = key && first(orchard_id: orchard_id, client_key: key)

      # The row as it is now, held until the transaction ends; nil where it is no longer under way.
      def held_running = Pattern.where(id: id, state: "running").for_update.first
    end
  end
end
