# frozen_string_literal: true

require "digest"
require "securerandom"

module Vestry
  module Records
    # A key with which a program acts for a person, until it is revoked or its time is over. It may be for reading
    # alone, and for one orchard alone.
    class ApiToken < Sequel::Model(DB[:api_tokens])
      many_to_one :account
      many_to_one :orchard
      SCOPES = { "read" => "reads", "write" => "reads and writes" }.freeze
      DAYS = [30, 90, 365].freeze
      USUAL_DAYS = 90

      def self.digest(token) = Digest::SHA256.hexdigest("api:#{token}")

      # @param orchard [Orchard, nil] nil for all that the person belongs to
      # @return [String] the token; it is shown once and not kept
      def self.issue(account, name, scope: "write", orchard: nil, days: USUAL_DAYS)
        token = "vst_#{SecureRandom.urlsafe_base64(30)}"
        create(account_id: account.id, name: name.to_s.strip[0, 80].then { |words| words.empty? ? "a program" : words },
               digest: digest(token), scope: scope,
               orchard_id: orchard&.id, expires_at: Time.now.utc + days * 86_400)
        token
      end

      def self.of(account)
        where(account_id: account.id, revoked_at: nil).where { expires_at > Sequel::CURRENT_TIMESTAMP }.order(:id).all
      end

      # @return [ApiToken, nil] what was revoked
      def self.revoke(account, id)
        first(account_id: account.id, revoked_at: nil, id: RowNumber.read(id))&.update(revoked_at: Time.now.utc)
      end

      # The key itself, if it still opens.
      def self.good(token)
        row = first(digest: digest(token.to_s), revoked_at: nil) or return nil
        return nil if row.expires_at < Time.now.utc || row.account.closed_at

        row.update(used_at: Time.now.utc) if row.used_at.nil? || row.used_at < Time.now.utc - 60
        row
      end

      # The account behind a token, if it still opens.
      def self.account(token) = good(token)&.account

      def writes? = scope == "write"
      def for?(orchard) = orchard_id.nil? || orchard_id == orchard.id
    end
  end
end
