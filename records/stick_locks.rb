# frozen_string_literal: true

module Vestry
  module Records
    # Sticks that are kept by hand, each for one stub: while the stick is here, and the stub is to be worked in the
    # season that it was cut for, and to become its variety.
    module StickLocks
      module_function

      # @return [Hash{Integer=>Integer}] planned limb by stick
      def of(orchard)
        seasons = orchard.season
        held(orchard).filter_map { |stick, row, season, cut| [stick, row] if seasons.name_of(cut) == season }.to_h
      end

      # Each that is held for a limb that is to become its variety, with the limb's season and the day it was cut.
      def held(orchard)
        limbs = PlanQueries.in_use(orchard).where(role: TreePlan::WORKED).unordered
        DB[:stick_locks].join(limbs.as(:rows), id: :plan_limb_id)
          .join(Stick.here.as(:sticks), id: Sequel[:stick_locks][:stick_id])
          .join(:bundles, id: Sequel[:sticks][:bundle_id], variety_id: Sequel[:rows][:variety_id])
          .order(:stick_id).select_map(%i[stick_id plan_limb_id season cut_on])
      end
      private_class_method :held

      # @return [Array<Integer>] of sticks
      def for_stub(plan_limb) = of(plan_limb.limb.orchard).filter_map { |stick, row| stick if row == plan_limb.id }

      # What it was kept for before may hold it no longer.
      #
      # @raise [Sequel::UniqueConstraintViolation] where the stick is kept for another
      def add(plan_limb, stick, by:)
        orchard = stick.bundle.orchard
        free(orchard, stick.id) unless of(orchard).key?(stick.id)
        DB[:stick_locks].insert(orchard_id: plan_limb.orchard_id, stick_id: stick.id, plan_limb_id: plan_limb.id,
                                by: by)
      end

      def free(orchard, stick_id) = DB[:stick_locks].where(orchard_id: orchard.id, stick_id: stick_id).delete
      def free_sticks(sticks) = DB[:stick_locks].where(stick_id: sticks.map(&:id)).delete
      def free_stub(plan_limb) = DB[:stick_locks].where(plan_limb_id: plan_limb.id).delete
    end
  end
end
