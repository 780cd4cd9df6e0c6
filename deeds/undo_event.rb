# frozen_string_literal: true

module Vestry
  module Deeds
    # Undoes what history tells of a row though it stands beside it: the margins of a wound, the crew's hours on a day
    # and the day of a stub. Each while it still stands as that line says.
    module UndoEvent
      # By the table, the fact that is told and how it is put back.
      KINDS = { "wounds" => ["margins", :margins], "orchards" => ["crew", :crew_day],
                "plan_limbs" => ["day", :stub_day] }.freeze
      private_constant :KINDS

      module_function

      # @param line [Hash] of history
      def knows?(line)
        fact, = KINDS[line[:table_name]]
        line[:action] == "change" && !line[:before].nil? && line[:after].to_h.key?(fact)
      end

      # @return [Boolean] whether it could be
      def call(row, line, by:, why:)
        before, after = line.values_at(:before, :after).map(&:to_h)
        DB.transaction do
          line[:table_name] == "orchards" ? Records::AdvisoryLock.hold(:crew, row.id) : row.locked
          next false unless public_send(KINDS.fetch(line[:table_name]).last, row, before, after, by)

          Ledger.event(row, before, before: after, by: by, why: why) && true
        end
      end

      # Those of a wound that was bridged since, or whose scions were placed by them, stay.
      def margins(wound, before, after, _)
        wound = wound.refresh
        stand = Records::Wound.plain_margins(wound.margins) == after["readings"]
        return false if !stand || wound.seated.any? || (before["readings"].empty? && wound.planned.any?)

        wound.replace_margins(Records::Wound.margins_of(before["readings"]))
        true
      end

      def crew_day(orchard, before, after, _)
        day = Date.iso8601(after["crew"])
        return false unless Records::CrewPlan.said_of(orchard, day) == hours_of(after)

        Records::CrewPlan.keep_day(orchard, day, **hours_of(before))
        true
      end

      def hours_of(facts) = { hours: facts["hours"]&.to_f, grafters: facts["grafters"] }

      def stub_day(plan_limb, before, after, by)
        return false if Records::CrewPlan.fixed_day(plan_limb)&.iso8601 != after["day"]

        Records::CrewPlan.fix(plan_limb, before["day"] && Date.iso8601(before["day"]), by: by)
        true
      end
    end
  end
end
