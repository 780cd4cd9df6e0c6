# frozen_string_literal: true

require "securerandom"

module Vestry
  module Deeds
    # Gives a person a secret address for their agenda; a new one ends the one before.
    module ShareCalendar
      # @return [String] the token; it is shown once and not kept
      def self.call(orchard, account)
        token = SecureRandom.urlsafe_base64(24)
        DB.transaction do
          revoke(orchard, account)
          Records::CalendarKey.create(orchard_id: orchard.id, account_id: account.id,
                                      digest: Records::CalendarKey.digest(token))
        end
        token
      end

      def self.revoke(orchard, account)
        Records::CalendarKey.revoke(orchard, account)
      end
    end
  end
end
