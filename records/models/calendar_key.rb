# frozen_string_literal: true

require "digest"

module Vestry
  module Records
    # A secret address under which someone's agenda can be read by a calendar, until it is revoked.
    class CalendarKey < Sequel::Model(DB[:calendar_keys])
      many_to_one :orchard
      many_to_one :account

      def self.digest(token) = Digest::SHA256.hexdigest("calendar:#{token}")

      def self.of(orchard, account) = first(orchard_id: orchard.id, account_id: account.id, revoked_at: nil)

      # The key behind an address, if it still opens: its person still belongs to the orchard.
      def self.good(token)
        key = first(digest: digest(token.to_s), revoked_at: nil)
        return nil unless key && key.orchard.hidden_at.nil? && key.account.role_in(key.orchard)

        key.update(read_at: Time.now.utc)
      end

      # Ends those of a person in an orchard.
      def self.revoke(orchard, account, now = Time.now.utc)
        where(orchard_id: orchard.id, account_id: account.id, revoked_at: nil).update(revoked_at: now)
      end
    end
  end
end
