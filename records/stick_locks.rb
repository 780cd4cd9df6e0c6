# frozen_string_literal: true

module Vestry
  module Records
    # Sticks that are kept by hand, each for one stub.
    module StickLocks
      module_function

      # @return [Hash{Integer=>Integer}] planned limb by stick
      def of(orchard)
        DB[:stick_locks].where(orchard_id: orchard.id).order(:stick_id).select_hash(:stick_id, :plan_limb_id)
      end

      # @return [Array<Integer>] of sticks
      def for_stub(plan_limb) = DB[:stick_locks].where(plan_limb_id: plan_limb.id).select_map(:stick_id)

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
