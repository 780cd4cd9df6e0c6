# frozen_string_literal: true

require "digest"

module Vestry
  module Records
    # A link that lets one person in, once. Only its digest is kept.
    class Invite < Sequel::Model(DB[:invites])
      many_to_one :orchard

      def self.digest(token) = Digest::SHA256.hexdigest(token.to_s)

      # Those of an orchard that still let someone in.
      def self.open(orchard, now = Time.now.utc)
        where(orchard_id: orchard.id, used_at: nil, revoked_at: nil).where { expires_at > now }.order(:created_at).all
      end

      # Takes one back that nobody used.
      #
      # @param id [Object] as an address names it
      def self.revoke(orchard, id, now = Time.now.utc)
        where(orchard_id: orchard.id, id: RowNumber.read(id), used_at: nil).update(revoked_at: now)
      end

      # Takes back all that someone gave out and nobody used.
      def self.revoke_those_of(orchard, name, now = Time.now.utc)
        where(orchard_id: orchard.id, invited_by: name, used_at: nil, revoked_at: nil).update(revoked_at: now)
      end

      # The invitation a link stands for, while it is good.
      def self.good(token, now = Time.now.utc)
        where(token_digest: digest(token), used_at: nil, revoked_at: nil).where { expires_at > now }.first
      end
    end
  end
end
