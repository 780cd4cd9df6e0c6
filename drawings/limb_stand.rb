# frozen_string_literal: true

module Vestry
  module Drawings
    # How a limb stands in a drawing: its role, where it is or will be cut, what sits on it.
    LimbStand = Struct.new(:limb, :role, :cut_mm, :graft, :fate, :shoot_mm, keyword_init: true) do
      # From the facts of a limb, its plan and its latest graft.
      def self.of(limb, planned: limb.planned, graft: limb.graft)
        tally = graft&.tallies&.last
        seen = graft && [tally&.growth_mm, *graft.observations.map(&:longest_shoot_mm)].compact.map(&:to_f).max
        new(limb: limb, role: planned&.role, cut_mm: (graft&.cut_mm || (planned if %w[work backup].include?(planned&.role))&.cut_mm)&.to_f,
            graft: graft, fate: graft && fate(graft, tally), shoot_mm: seen)
      end

      # The last word on a graft, by whichever came later: the autumn's tally or a visit.
      def self.fate(graft, tally = graft.tallies.last)
        visit = graft.observations.reverse.find { |each| each.verdict || each.buds }
        if tally && (visit.nil? || tally.tallied_on >= visit.seen_on)
          return tally.alive ? "took" : "lost"
        end
        return "lost" if visit&.verdict == "failed" || visit&.buds == "dead"

        graft.observations.any? { |each| each.verdict == "took" } ? "took" : "waiting"
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
