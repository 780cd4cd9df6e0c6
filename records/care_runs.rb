# frozen_string_literal: true

module Vestry
  module Records
    # How far the reckoning of an orchard's grafts in the background is.
    module CareRuns
      # One that was begun so long ago and has not ended was broken off.
      BROKEN_OFF = 600

      module_function

      # Begins one, unless it is under way.
      #
      # @param total [Integer] of grafts that are out of date
      # @return [Boolean] whether it was begun
      def begin(orchard, total, now = Time.now.utc)
        over = Sequel.|(Sequel.~(Sequel[:care_runs][:ended_at] => nil),
                        Sequel[:care_runs][:begun_at] < now - BROKEN_OFF)
        anew = { total: total, done: 0, begun_at: Sequel::CURRENT_TIMESTAMP, ended_at: nil }
        DB[:care_runs].insert_conflict(target: :orchard_id, update: anew, update_where: over).returning(:orchard_id)
          .insert(orchard_id: orchard.id, total: total).any?
      end

      def tell(orchard_id, done) = DB[:care_runs].where(orchard_id: orchard_id).update(done: done)
      def end(orchard_id) = DB[:care_runs].where(orchard_id: orchard_id).update(ended_at: Sequel::CURRENT_TIMESTAMP)

      # @return [Hash] +state+ (running or done), +done+ and +lines+
      def progress(orchard)
        run = DB[:care_runs].first(orchard_id: orchard.id)
        { state: run.nil? || run[:ended_at] ? "done" : "running", done: run ? run[:done] : 0,
          lines: run ? run[:total] : 0 }
      end
    end
  end
end
