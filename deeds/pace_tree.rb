# frozen_string_literal: true

module Vestry
  module Deeds
    # Chooses how fast a tree is changed: each limb's role and season, all at once. What is
    # already decided about a limb besides its season stays.
    module PaceTree
      # @param count [Integer] seasons
      # @param first [Integer] the season the work begins in
      # @param cap [Float, nil] the most of the head one season may take
      # @return [Records::TreePace::Way]
      # @raise [Refused] when this many seasons cannot be made
      def self.call(tree, count, by:, today:, cap: nil)
        DB.transaction do
          # As it is decided by now, and while nobody decides anything else.
          tree = tree.locked
          plan = Records::TreePlan.new(tree, today)
          way = way(plan, count, cap)
          spread(plan, way, by)
          (plan.nurses + plan.lifted + plan.renewed).reject { |limb| plan.decided?(limb) }.each do |limb|
            settle(limb, { role: plan.role(limb), season: plan.first_season }, by, plan.first_season)
          end
          Ledger.change(tree.reload.plan, { seasons: count, cap: cap }, by: by)
          way
        end
      end

      def self.way(plan, count, cap)
        pace = Records::TreePace.new(plan, cap: cap)
        found = pace.any? && pace.ways.find { |each| each.count == count && each.feasible }
        found || raise(Refused, pace: ["cannot be done in #{count} #{count == 1 ? 'season' : 'seasons'} here"])
      end

      def self.spread(plan, way, by)
        way.seasons.each_with_index do |limbs, index|
          limbs.each do |limb|
            role = plan.role(limb) == "backup" ? "backup" : (index.zero? ? "work" : "later")
            settle(limb, { role: role, season: plan.first_season + index, **place(plan, limb) }, by,
                   plan.first_season)
          end
        end
      end

      # Where and how, for a limb about which that is still open.
      def self.place(plan, limb)
        outlook = plan.outlook(limb)
        return {} if plan.planned(limb)&.cut_mm || !outlook.cut[:feasible]

        { technique: outlook.technique, cut: outlook.at_mm, practice: outlook.practice }
      end

      def self.settle(limb, values, by, first)
        DecideLimb.call(limb, values, by: by, season: first)
      end
      private_class_method :way, :spread, :settle, :place
    end
  end
end
