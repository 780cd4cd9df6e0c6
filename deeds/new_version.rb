# frozen_string_literal: true

module Vestry
  module Deeds
    # Begins a new version of a tree's plan: the old one is kept as it was, and the new one starts
    # from it.
    module NewVersion
      # What is carried over of a plan, of a planned limb and of a planned stretch: all but which one it is.
      KEPT_OF_PLAN = %i[orchard_id tree_id purpose school seasons cap reasons old_worth new_worth].freeze
      KEPT = %i[limb_id role season cut_mm technique variety_id sticks faces against_reason stock_mm long_cut_mm
                headed_on headed_by after_graft_on hand undone_on undone_why].freeze
      KEPT_OF_SITES = %i[site_id role season technique variety_id sticks donor].freeze

      # @return [Records::Plan]
      # @raise [Refused] when there is no plan yet
      def self.call(tree, by:, why: nil)
        DB.transaction do
          tree.locked
          old = tree.reload.plan or raise Refused, plan: ["#{tree.label} has no plan yet"]
          Ledger.change(old, { superseded_at: Time.now.utc }, by: by, why: why)
          plan = Ledger.add(Records::Plan, old.values.slice(*KEPT_OF_PLAN), by: by, why: why)
          carry(old, plan)
          plan
        end
      end

      # An earlier version is the plan again, as a new one; what was grafted since, and what has come off, stays as it
      # stands in the plan that it takes the place of.
      #
      # @param earlier [Records::Plan]
      # @return [Records::Plan]
      # @raise [Refused] where it is the plan in use
      # @raise [Records::Missing] where it is another tree's
      def self.again(tree, earlier, by:)
        raise Records::Missing if earlier.tree_id != tree.id

        DB.transaction do
          tree.locked
          now = tree.reload.plan
          raise Refused, plan: ["is the plan in use already"] if now&.id == earlier.id

          if now
            Ledger.change(now, { superseded_at: Time.now.utc }, by: by, why: "an earlier version is the plan again")
          end
          plan = Ledger.add(Records::Plan, earlier.values.slice(*KEPT_OF_PLAN), by: by)
          carry(earlier, plan, now: now || earlier)
          plan
        end
      end

      # What is held for a planned limb, sticks and days, is held for it in the new version.
      #
      # @param now [Records::Plan] the one whose place is taken
      def self.carry(old, plan, now: old)
        here = { orchard_id: plan.orchard_id, plan_id: plan.id }
        stands = by_limb(now.plan_limbs.map(&:locked))
        done = stands.select { |_, row| Records::PlanLimb.done_on?(row.limb) }
        by_limb(old.plan_limbs).merge(done).each do |limb, row|
          Records::PlanLimb.create(row.values.slice(*KEPT).merge(here)).stand_for(stands[limb])
        end
        old.plan_sites.each { |row| Records::PlanSite.create(row.values.slice(*KEPT_OF_SITES).merge(here)) }
      end

      def self.by_limb(rows) = rows.to_h { |row| [row.limb_id, row] }
      private_class_method :carry, :by_limb
    end
  end
end
