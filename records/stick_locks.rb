# frozen_string_literal: true

module Vestry
  module Records
    # Sticks that are kept by hand, each for one stub: while that is to be worked in the season that the stick was cut
    # for, and to become its variety.
    module StickLocks
      module_function

      # @return [Hash{Integer=>Integer}] planned limb by stick
      def of(orchard)
        rows = PlanQueries.in_use(orchard).where(role: TreePlan::WORKED).unordered
          .select(Sequel[:plan_limbs][:id], Sequel[:plan_limbs][:variety_id], Sequel[:plan_limbs][:season])
        held = DB[:stick_locks].where(Sequel[:stick_locks][:orchard_id] => orchard.id)
          .join(rows.as(:rows), id: :plan_limb_id)
          .join(:sticks, id: Sequel[:stick_locks][:stick_id])
          .join(:bundles, id: Sequel[:sticks][:bundle_id], variety_id: Sequel[:rows][:variety_id])
          .order(:stick_id).select_map(%i[stick_id plan_limb_id season cut_on])
        held.filter_map { |stick, row, season, cut| [stick, row] if orchard.season.name_of(cut) == season }.to_h
      end

      # @return [Array<Integer>] of sticks
      def for_stub(plan_limb) = of(plan_limb.limb.orchard).filter_map { |stick, row| stick if row == plan_limb.id }

      # @raise [Sequel::UniqueConstraintViolation] where the stick is kept for another
      def add(plan_limb, stick, by:)
        DB[:stick_locks].insert(orchard_id: plan_limb.orchard_id, stick_id: stick.id, plan_limb_id: plan_limb.id,
                                by: by)
      end

      def free(orchard, stick_id) = DB[:stick_locks].where(orchard_id: orchard.id, stick_id: stick_id).delete
      def free_sticks(sticks) = DB[:stick_locks].where(stick_id: sticks.map(&:id)).delete
      def free_stub(plan_limb) = DB[:stick_locks].where(plan_limb_id: plan_limb.id).delete
    end
  end
end
