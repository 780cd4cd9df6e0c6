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
        plan = Records::TreePlan.new(tree, today)
        pace = Records::TreePace.new(plan, cap: cap)
        way = pace.any? && pace.ways.find { |each| each.count == count && each.feasible }
        raise Refused, pace: ["cannot be done in #{count} #{count == 1 ? 'season' : 'seasons'} here"] unless way

        first = plan.first_season
        DB.transaction do
          way.seasons.each_with_index do |limbs, index|
            limbs.each { |limb| settle(limb, { role: plan.role(limb) == "backup" ? "backup" :
                                               (index.zero? ? "work" : "later"), season: first +
                                                 index }.merge(place(plan, limb)), by) }
          end
          (plan.nurses + plan.lifted + plan.renewed).reject { |limb| plan.decided?(limb) }.each do |limb|
            settle(limb, { role: plan.role(limb), season: first }, by)
          end
          Ledger.change(tree.reload.plan, { seasons: count, cap: cap }, by: by)
        end
        way
      end

      # Where and how, for a limb about which that is still open.
      def self.place(plan, limb)
        outlook = plan.outlook(limb)
        return {} if plan.planned(limb)&.cut_mm || !outlook.cut[:feasible]

        { technique: outlook.technique, cut: outlook.at_mm, practice: outlook.practice }
      end

      def self.settle(limb, values, by)
        DecideLimb.call(limb, values, by: by, season: values[:season])
      end
      private_class_method :settle, :place
    end
  end
end
