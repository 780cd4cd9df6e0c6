# frozen_string_literal: true

module Vestry
  module Drawings
    # How a limb stands in a drawing: its role, where it is or will be cut, what sits on it.
    LimbStand = Struct.new(:limb, :role, :cut_mm, :graft, :fate, :shoot_mm, :falls, keyword_init: true) do
      # Every limb of a tree that still stands. Those that come off with a limb that is to be
      # cut below them are marked as falling.
      #
      # @param proposed [Hash{Integer=>Float}] cuts by limb id that are not yet decided
      def self.all(tree, proposed: {})
        planned = (tree.plan&.plan_limbs || []).to_h { |each| [each.limb_id, each] }
        limbs = tree.limbs.reject(&:gone_on)
        stands = limbs.to_h { |limb| [limb.id, of(limb, planned: planned[limb.id], cut_mm: proposed[limb.id])] }
        stands.each_value { |stand| stand.falls = falls?(stand, stands) }
        stands.values
      end

      def self.falls?(stand, stands)
        under = stands[stand.limb.parent_id] or return false
        falls?(under, stands) || (under.cut_mm && stand.limb.fork_mm >= under.cut_mm) || under.role == "lift"
      end

      # From the facts of a limb, its plan and its latest graft.
      #
      # @param cut_mm [Float, nil] a cut that is proposed and not yet decided
      def self.of(limb, planned: limb.planned, graft: limb.graft, cut_mm: nil)
        tally = graft&.tallies&.last
        seen = graft && [tally&.growth_mm, *graft.observations.map(&:longest_shoot_mm)].compact.map(&:to_f).max
        new(limb: limb, role: planned&.role, cut_mm: (graft&.cut_mm || cut_mm || (planned if %w[work backup].include?(planned&.role))&.cut_mm)&.to_f,
            graft: graft, fate: graft&.fate, shoot_mm: seen)
      end

      # The word that names its state: the style sheet and the text equivalent both use it.
      def state
        return "lost" if fate == "lost"
        return "grafted" if graft

        role || "open"
      end
    end
  end
end
