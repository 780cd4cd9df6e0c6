# frozen_string_literal: true

require "digest"
require "securerandom"

module Vestry
  module Records
    # A key with which a program acts for a person, until it is revoked.
    class ApiToken < Sequel::Model(DB[:api_tokens])
      many_to_one :account

      def self.digest(token) = Digest::SHA256.hexdigest("api:#{token}")

      # @return [String] the token; it is shown once and not kept
      def self.issue(account, name)
        token = "vst_#{SecureRandom.urlsafe_base64(30)}"
        create(account_id: account.id, name: name.to_s.strip[0, 80].then { |words| words.empty? ? "a program" : words }, digest: digest(token))
        token
      end

      def self.of(account) = where(account_id: account.id, revoked_at: nil).order(:id).all
      def self.revoke(account, id) = where(account_id: account.id, id: id.to_i.clamp(0, 2_147_483_647)).update(revoked_at: Time.now.utc)

      # The account behind a token, if it still opens.
      def self.account(token)
        row = first(digest: digest(token.to_s), revoked_at: nil) or return nil
        row.update(used_at: Time.now.utc) if row.used_at.nil? || row.used_at < Time.now.utc - 60
        row.account
      end
    end
  end
end
