# frozen_string_literal: true

module Vestry
  module Deeds
    # Records that a graft was lost, and by what: losses teach.
    module RecordLoss
      CAUSES = Core::Rulebook.shipped.book("cause").fetch("losses").keys.freeze

      # @raise [Refused]
      def self.call(graft, on:, cause:, by:, today:, note: nil)
        errors = {}
        errors[:lost_cause] = ["choose what took it"] unless CAUSES.include?(cause)
        begin
          DayOfGraft.check(graft, :lost_on, on, today)
        rescue Refused => e
          errors.merge!(e.errors)
        end
        raise Refused, errors if errors.any?

        Ledger.change(graft, { lost_on: on, lost_cause: cause, lost_note: note }, by: by)
      end

      # It was not lost after all.
      def self.undo(graft, by:)
        Ledger.change(graft, { lost_on: nil, lost_cause: nil, lost_note: nil }, by: by,
                      why: "it was not lost after all")
      end
    end
  end
end
