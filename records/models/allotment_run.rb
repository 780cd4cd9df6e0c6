# frozen_string_literal: true

module Vestry
  module Records
    # An allotment that was asked for, how far it is, and what was accepted of it.
    class AllotmentRun < Sequel::Model(DB[:allotments])
      include Advances
      many_to_one :orchard

      def self.asked(orchard, wish, by:, client_key:)
        create(orchard_id: orchard.id, wish: Sequel.pg_jsonb(wish), by: by, client_key: client_key)
      end

      # The one that was sent with a key; nil without one.
      def self.sent_as(orchard_id, key) = key && first(orchard_id: orchard_id, client_key: key)

      # The last ones.
      def self.latest(orchard, most: 8)
        where(orchard_id: orchard.id).order(Sequel.desc(:id)).limit(most).all
      end

      # @raise [Missing]
      def self.of_orchard!(orchard, id)
        first(orchard_id: orchard.id, id: RowNumber.read(id)) || raise(Missing, "no such allotment here")
      end

      def over? = %w[done failed cancelled].include?(state)
      def accepted? = accepted.to_a.any?

      # The row as it is now, held until the transaction ends.
      def held = self.class.where(id: id).for_update.first

      # What it comes to is kept, unless it was cancelled meanwhile.
      def answered(answer)
        advance("running", state: "done", done: 2, finished_at: Time.now.utc, answer: Sequel.pg_jsonb(answer))
      end


      # The limbs that were moved as it says and are still there, by their numbers.
      def moved_limbs = Limb.where(orchard_id: orchard_id, id: accepted.to_a.map { |each| each["limb"] }).to_hash(:id)
      def accept(moves) = update(accepted: Sequel.pg_jsonb(moves))
    end
  end
end
