# frozen_string_literal: true

module Vestry
  module Records
    # What a person may do in an orchard.
    class Membership < Sequel::Model(DB[:memberships])
      include Row
      ROLES = %w[viewer grafter steward].freeze
      many_to_one :orchard
      many_to_one :account

      # Whether +role+ may do what +needed+ may: each role may do what those before it may.
      def self.enough?(role, needed) = !role.nil? && ROLES.index(role) >= ROLES.index(needed)
    end
  end
end
