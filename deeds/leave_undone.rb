# frozen_string_literal: true

module Vestry
  module Deeds
    # A stub that was not done: why, and it stays in the plan.
    module LeaveUndone
      # @raise [Refused] without a reason
      def self.call(plan_limb, why, on:, by:)
        words = why.to_s.strip
        raise Refused, why: ["say why: bark, wood, weather, time"] if words.empty?

        DB.transaction do
          # It is no longer settled to the day it was not done on.
          Records::CrewPlan.unfix_until(plan_limb, on)
          Ledger.change(plan_limb, { undone_on: on, undone_why: words[0, 300] }, by: by, why: words[0, 300])
        end
      end
    end
  end
end
