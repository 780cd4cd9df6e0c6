# frozen_string_literal: true

require "digest"
require "securerandom"

module Vestry
  module Records
    # A device on which someone has signed in before. It carries a token of which only the digest is here.
    class KnownDevice < Sequel::Model(DB[:known_devices])
      KEPT_DAYS = 400

      # Whether someone signed in on any before.
      def self.met?(account_id) = !where(account_id: account_id).empty?

      def self.digest(token) = Digest::SHA256.hexdigest("device:#{token}")

      # Whether this person has signed in on the device before.
      def self.known?(account_id, token)
        !token.to_s.empty? && !where(account_id: account_id, digest: digest(token)).empty?
      end

      # Notes that someone signed in on a device; one that carries no token of theirs gets one.
      #
      # @return [Array(String, Boolean)] the device's token, and whether it is new
      def self.meet(account_id, token, name)
        if !token.to_s.empty? && where(account_id: account_id, digest: digest(token)).update(seen_at: Time.now.utc) == 1
          return [token, false]
        end

        token = SecureRandom.urlsafe_base64(24)
        create(account_id: account_id, digest: digest(token), name: name)
        [token, true]
      end

      # Drops those not seen for long.
      def self.purge(now = Time.now.utc) = where { seen_at < now - KEPT_DAYS * 86_400 }.delete
    end
  end
end
