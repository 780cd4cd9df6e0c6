# frozen_string_literal: true

module Vestry
  module Deeds
    # Records what was seen at a visit to a graft.
    module RecordVisit
      # @return [Records::Visit]
      # @raise [Refused] when the day cannot be right
      def self.call(graft, values, by:, today:)
        DayOfGraft.check(graft, :seen_on, values[:seen_on], today)
        Ledger.add(Records::Visit, values.merge(orchard_id: graft.orchard_id, graft_id: graft.id,
                                                      verdict: values[:verdict] || found(graft, values, today)), by: by)
      end

      # What is seen to have taken counts as taken, though nobody pressed so.
      def self.found(graft, values, today)
        return nil if Core::Tally::GraftOutcome.dead?(values)

        visit = Records::CoreInputs.visit(values)
        if Core::Tend::Care.took?(visit, Records::CoreInputs.care(graft, today)[:knit_on], graft.orchard.rulebook)
          "took"
        end
      end
      private_class_method :found
    end
  end
end
