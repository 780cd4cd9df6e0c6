# frozen_string_literal: true

module Vestry
  module Records
    # What a person may do in an orchard.
    class Membership < Sequel::Model(DB[:memberships])
      include Row
      ROLES = %w[viewer grafter steward].freeze
      many_to_one :orchard
      many_to_one :account

      # Those who belong to an orchard with their accounts, who may most first and then by name.
      def self.of(orchard)
        in_sight.where(orchard_id: orchard.id).eager(:account).all
          .sort_by { |each| [-ROLES.index(each.role), each.account.name] }
      end

      # Someone's own in an orchard.
      def self.between(account, orchard) = in_sight.first(orchard_id: orchard.id, account_id: account.id)

      # The names of those who may be given work.
      def self.hands(orchard)
        in_sight.where(orchard_id: orchard.id).exclude(role: "viewer").select_order_map(:known_as)
      end

      # Whether +role+ may do what +needed+ may: each role may do what those before it may.
      def self.enough?(role, needed) = !role.nil? && ROLES.index(role) >= ROLES.index(needed)
    end
  end
end
