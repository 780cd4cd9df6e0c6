# frozen_string_literal: true

require "securerandom"

module Vestry
  module Deeds
    # Gives one tree an address of its own, for someone who does not sign in: an owner, a neighbour, a buyer.
    module ShareTree
      # For how many days it may open.
      DAYS = { "30" => 30, "180" => 180, "365" => 365 }.freeze
      # So many of one tree may open at once.
      MOST = 20

      # @param for_whom [String]
      # @param days [String] one of DAYS
      # @return [String] the token; it is shown once and not kept
      # @raise [Refused]
      def self.call(tree, for_whom:, days:, by:, today:)
        for_whom = for_whom.to_s.strip[0, 80]
        raise Refused, for_whom: ["is wanted, so that it is known later whose it is"] if for_whom.empty?

        days = DAYS[days] or raise Refused, days: ["is one of #{DAYS.keys.join(', ')} days"]
        token = SecureRandom.urlsafe_base64(24)
        DB.transaction do
          # Two who share it at once are counted one after the other.
          tree.locked
          raise Refused, for_whom: ["#{MOST} addresses open this tree already: end one first"] if
            Records::TreeLink.open(tree, today).size >= MOST

          Records::TreeLink.create(orchard_id: tree.orchard_id, tree_id: tree.id, by: by, ends_on: today + days,
                                   for_whom: for_whom, digest: Records::TreeLink.digest(token))
          Ledger.event(tree, { "shared_with" => for_whom }, by: by)
        end
        token
      end

      def self.revoke(tree, id, by:)
        DB.transaction do
          Ledger.event(tree, { "shared" => "no longer" }, by: by) if Records::TreeLink.revoke(tree, id).positive?
        end
      end
    end
  end
end
