# frozen_string_literal: true

module Vestry
  module Deeds
    # Corrects what a limb measures, keeping what it corrected.
    module MeasureLimb
      # @param values [Hash] columns of a limb
      # @return [Records::Limb]
      # @raise [Refused] where it would leave the trunk above the leader, or be a second one, or be all bark
      def self.call(limb, values, by:, version: nil, why: nil)
        DB.transaction do
          check(limb, values) if (values.keys & PLACED).any?
          check_bark(limb, values) if (values.keys & THICK).any?
          Ledger.change(limb, values, by: by, version: version, why: why)
        end
      end

      PLACED = %i[fork_mm leader].freeze
      THICK = %i[girth_mm wide_mm narrow_mm bark_mm].freeze

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

      # Against the limb as it is while nobody else measures it.
      def self.check_bark(limb, values)
        limb.tree.locked
        standing = limb.locked or return
        most = Core::Survey::Section.too_much_bark(standing.values.merge(values.slice(*THICK))) or return
        say = Core::Measure.say_thin(most, limb.orchard.units)
        raise Refused, bark_thickness: ["leaves no wood: below #{say}, half the thickness of #{limb.tag}"]
      end
      private_class_method :check, :check_bark
    end
  end
end
