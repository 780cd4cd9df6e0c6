# frozen_string_literal: true

require "digest"

module Vestry
  module Records
    # A secret address under which one tree can be read, until it ends or is revoked.
    class TreeLink < Sequel::Model(DB[:tree_links])
      many_to_one :orchard
      many_to_one :tree

      def self.digest(token) = Digest::SHA256.hexdigest("tree:#{token}")

      # Those of a tree that still open, newest first.
      def self.open(tree, today)
        where(orchard_id: tree.orchard_id, tree_id: tree.id, revoked_at: nil).where { ends_on >= today }
          .order(Sequel.desc(:id)).all
      end

      # The link behind an address, if it still opens and its tree still stands in sight.
      def self.good(token)
        link = first(digest: digest(token.to_s), revoked_at: nil)
        return unless link && link.orchard.hidden_at.nil? && link.tree.hidden_at.nil?

        link if link.ends_on >= Outside::Clock.today(link.orchard.time_zone)
      end

      def self.revoke(tree, id, now = Time.now.utc)
        where(id: Integer(id.to_s, 10, exception: false), orchard_id: tree.orchard_id, tree_id: tree.id,
              revoked_at: nil)
          .update(revoked_at: now)
      end

      def read!(now = Time.now.utc) = self.class.where(id: id).update(read_at: now)
    end
  end
end
