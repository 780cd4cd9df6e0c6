# frozen_string_literal: true

module Vestry
  module Deeds
    # The first graft of a day begins its sheet: what stands on it then stays on it, whatever a later forecast says.
    module BeginSheet
      # The lock under which a day's sheet is begun.
      LOCK = 4

      # @param today [Date]
      # @return [Integer] how many stubs it holds now; 0 where it was begun before
      def self.call(orchard, today)
        DB.transaction do
          DB.get(Sequel.function(:pg_advisory_xact_lock, LOCK, orchard.id))
          next 0 if Records::CrewPlan.begun(orchard, today).any?

          stubs = Records::CrewPlan.new(orchard, today).days.find { |day| day.date == today }.stubs
          DB[:begun_sheets].multi_insert(stubs.map { |stub| { orchard_id: orchard.id, day: today, plan_limb_id: stub.row.id } })
          stubs.size
        end
      end
    end
  end
end
