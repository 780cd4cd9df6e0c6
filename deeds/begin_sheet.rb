# frozen_string_literal: true

module Vestry
  module Deeds
    # The first graft of a day begins its sheet: what stands on it then stays on it, whatever a later forecast says.
    module BeginSheet
      # @param today [Date]
      # @return [Integer] how many stubs it holds now; 0 where it was begun before
      def self.call(orchard, today)
        DB.transaction do
          Records::AdvisoryLock.hold(:day_sheet, orchard.id)
          next 0 if Records::CrewPlan.begun(orchard, today).any?

          stubs = Records::CrewPlan.new(orchard, today).days.find { |day| day.date == today }.stubs
          Records::CrewPlan.begin(orchard, today, stubs)
          stubs.size
        end
      end
    end
  end
end
