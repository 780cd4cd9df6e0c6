# frozen_string_literal: true

module Vestry
  module Records
    # A graft that was made.
    class Graft < Sequel::Model(DB[:grafts])
      include Row
      many_to_one :orchard
      many_to_one :limb
      many_to_one :variety
      one_to_many :observations, order: %i[seen_on id], conditions: { hidden_at: nil }
      one_to_many :tallies, order: :season, conditions: { hidden_at: nil }
      one_to_many :tasks_done, class: "Vestry::Records::TaskDone", conditions: { hidden_at: nil }

      # The last word on it, by whichever came later: the autumn's tally or a visit.
      #
      # @return [String] took, lost or waiting
      def fate
        return "lost" if lost_on

        tally = tallies.last
        visit = observations.reverse.find { |each| each.verdict || each.buds }
        if tally && (visit.nil? || tally.tallied_on >= visit.seen_on)
          return tally.alive ? "took" : "lost"
        end
        return "lost" if visit&.verdict == "failed" || visit&.buds == "dead"

        observations.any? { |each| each.verdict == "took" } ? "took" : "waiting"
      end
    end
  end
end
