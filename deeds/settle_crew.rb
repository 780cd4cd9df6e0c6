# frozen_string_literal: true

module Vestry
  module Deeds
    # The crew's hours on a day, and a stub settled to a day by hand.
    module SettleCrew
      module_function

      # What is so already, by hand or by the ordinary, is not written.
      def day(orchard, day, hours:, grafters:, by:)
        stands = Records::CrewPlan.new(orchard, day).days.first
        return if Core::Near.equal?(stands.hours, hours) && stands.grafters == grafters

        DB.transaction do
          Records::AdvisoryLock.hold(:crew, orchard.id)
          before = Records::CrewPlan.said_of(orchard, day)
          Records::CrewPlan.keep_day(orchard, day, hours: hours, grafters: grafters)
          Ledger.event(orchard, facts(day, hours: hours.to_f, grafters: grafters), before: facts(day, **before), by: by)
        end
      end

      def facts(day, hours:, grafters:) = { "crew" => day.iso8601, "hours" => hours, "grafters" => grafters }

      # @param day [Date, nil] nil lets it go again
      # @raise [Refused] for a day gone by
      def fix(plan_limb, day, by:, today:)
        raise Refused, day: ["#{SaidDay.of(day)} is gone by"] if day && day < today

        DB.transaction do
          plan_limb.in_use!
          # Let go from a day that was begun, it does not come back onto its sheet.
          before = { "day" => Records::CrewPlan.fixed_day(plan_limb)&.iso8601 } unless
            day.nil? && Records::CrewPlan.begun?(plan_limb)
          # Let go by hand, it is let go from a day that was begun as well.
          Records::CrewPlan.let_go(plan_limb) if day.nil?
          Records::CrewPlan.fix(plan_limb, day, by: by)
          Ledger.event(plan_limb, { "day" => day&.iso8601 }, before: before, by: by)
        end
      end
      private_class_method :facts
    end
  end
end
