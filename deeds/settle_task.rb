# frozen_string_literal: true

module Vestry
  module Deeds
    # A task is done or waived by a person; pressing twice settles it once.
    module SettleTask
      WHATS = %w[done waived].freeze

      def self.call(graft, key, what, by:, today:, why: nil)
        raise Refused, key: ["is not a task of this graft"] unless Records::CoreValues.care(graft, today)[:tasks].any? { |each| each[:key] == key }

        DB.transaction do
          Records::Graft.where(id: graft.id).for_update.first
          Records::TaskDone.in_sight.first(graft_id: graft.id, key: key) ||
            Ledger.add(Records::TaskDone, { orchard_id: graft.orchard_id, graft_id: graft.id, key: key, what: what,
                                            done_on: today, done_by: by, why: why }, by: by)
        end
      end

      # Takes back what was settled.
      def self.undo(graft, key, by:)
        row = Records::TaskDone.in_sight.first(graft_id: graft.id, key: key)
        row && Ledger.hide(row, by: by)
      end
    end
  end
end
