# frozen_string_literal: true

module Vestry
  module Deeds
    # Records what was seen at a visit to a graft.
    module RecordVisit
      # @return [Records::Observation]
      # @raise [Refused] when the day cannot be right
      def self.call(graft, values, by:, today:)
        DayOfGraft.check(graft, :seen_on, values[:seen_on], today)
        Ledger.add(Records::Observation, values.merge(orchard_id: graft.orchard_id, graft_id: graft.id), by: by)
      end
    end
  end
end
