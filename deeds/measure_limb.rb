# frozen_string_literal: true

module Vestry
  module Deeds
    # Corrects what a limb measures, keeping what it corrected.
    module MeasureLimb
      # @param values [Hash] columns of a limb
      # @return [Records::Limb]
      # @raise [Refused] where it would leave the trunk above the leader, or be a second one
      def self.call(limb, values, by:, version: nil, why: nil)
        DB.transaction do
          check(limb, values) if (values.keys & PLACED).any?
          Ledger.change(limb, values, by: by, version: version, why: why)
        end
      end

      PLACED = %i[fork_mm leader].freeze

      # Against the tree as it is while nobody else writes to it.
      def self.check(limb, values)
        limb.tree.locked
        facts = limb.values.slice(:tag, :parent_id, *PLACED).merge(values.slice(*PLACED))
        others = Records::Limb.standing(limb.tree_id).map(&:values)
        raise Refused, leader: ["#{limb.tag} grows on a limb; the leader is the trunk itself"] if
          facts[:leader] && facts[:parent_id]

        why = BesideLeader.wrong(limb.tree, facts, others)
        raise Refused, fork: [why] if why
      end
      private_class_method :check
    end
  end
end
