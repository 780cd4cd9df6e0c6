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

      # Those who may be given work and want the day's letter, with their accounts.
      def self.wanting_letters(orchard)
        in_sight.where(orchard_id: orchard.id, daily_letter: true).exclude(role: "viewer").eager(:account).all
      end

      # Claims the letter of a day: only once can it be.
      #
      # @return [Boolean] whether it was not claimed before
      def claim_letter(day)
        DB[:daily_letters].insert_conflict.returning(:day)
          .insert(account_id: account_id, orchard_id: orchard_id, day: day).any?
      end

      # The stewards of an orchard, as many as there are.
      def self.stewards(orchard) = in_sight.where(orchard_id: orchard.id, role: "steward").count

      # The orchards that would be left without a steward if someone went.
      #
      # @return [Array<Integer>]
      def self.left_alone_by(account)
        stewards = in_sight.where(role: "steward")
        mine = stewards.where(account_id: account.id).select_map(:orchard_id)
        mine - stewards.where(orchard_id: mine).exclude(account_id: account.id).select_map(:orchard_id)
      end

      # Whether whoever goes by a name here still may so much: nobody changes that until the transaction ends.
      #
      # @param name [String] as known here; one that nobody has is no member's
      def self.still?(orchard_id, name, role)
        member = where(orchard_id: orchard_id, known_as: name).for_share.first
        member.nil? || (!member.hidden? && enough?(member.role, role))
      end

      # Someone's own in an orchard.
      def self.between(account, orchard) = in_sight.first(orchard_id: orchard.id, account_id: account.id)

      # Someone who belongs to an orchard.
      #
      # @return [Account, nil]
      def self.account_of(orchard_id, account_id)
        in_sight.where(orchard_id: orchard_id, account_id: account_id).empty? ? nil : Account[account_id]
      end

      # The same, though they left.
      def self.ever_between(account, orchard) = first(orchard_id: orchard.id, account_id: account.id)

      # The names of those who may be given work.
      def self.hands(orchard)
        in_sight.where(orchard_id: orchard.id).exclude(role: "viewer").select_order_map(:known_as)
      end

      # Whether +role+ may do what +needed+ may: each role may do what those before it may.
      def self.enough?(role, needed) = !role.nil? && ROLES.index(role) >= ROLES.index(needed)
    end
  end
end
