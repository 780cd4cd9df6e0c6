# frozen_string_literal: true

module Vestry
  module Deeds
    # Begins a new version of a tree's plan: the old one is kept as it was, and the new one starts
    # from it.
    module NewVersion
      KEPT = %i[limb_id role season cut_mm technique variety_id sticks faces against_reason stock_mm long_cut_mm
                headed_on headed_by after_graft_on].freeze
      KEPT_OF_SITES = %i[site_id role season technique variety_id sticks].freeze

      # @return [Records::Plan]
      # @raise [Refused] when there is no plan yet
      def self.call(tree, by:, why: nil)
        DB.transaction do
          tree.locked
          old = tree.reload.plan or raise Refused, plan: ["#{tree.label} has no plan yet"]
          Ledger.change(old, { superseded_at: Time.now.utc }, by: by, why: why)
          plan = Ledger.add(Records::Plan, old.values.slice(:orchard_id, :tree_id, :purpose, :school, :seasons, :cap),
                            by: by, why: why)
          old.plan_limbs.each do |row|
            Records::PlanLimb.create(row.values.slice(*KEPT).merge(orchard_id: plan.orchard_id, plan_id: plan.id))
          end
          old.plan_sites.each do |row|
            Records::PlanSite.create(row.values.slice(*KEPT_OF_SITES).merge(orchard_id: plan.orchard_id,
              plan_id: plan.id))
          end
          plan
        end
      end
    end
  end
end
