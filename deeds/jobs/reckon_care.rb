# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Reckons what every graft of an orchard needs, in the background, and says how far it is.
      class ReckonCare < Que::Job
        # Begins, unless it is under way already.
        def self.begin(orchard, today)
          left = Records::CareSchedule.stale(orchard, today).count
          fresh = DB[:care_runs].insert_conflict(target: :orchard_id,
                                                 update: { total: left, done: 0, begun_at: Sequel::CURRENT_TIMESTAMP,
                                                           ended_at: nil }, update_where: Sequel
                                                             .|(Sequel.~(Sequel[:care_runs][:ended_at] => nil),
                                                                Sequel[:care_runs][:begun_at] < Time.now.utc - 600))
                                .returning(:orchard_id).insert(orchard_id: orchard.id, total: left)
          enqueue(orchard.id, today.iso8601) if fresh.any?
        end

        def run(orchard_id, today)
          orchard = Records::Orchard[orchard_id] or return
          Records::CareSchedule.refresh(orchard, Date.iso8601(today), most: 1_000_000) do |done|
            DB[:care_runs].where(orchard_id: orchard_id).update(done: done)
          end
        ensure
          DB[:care_runs].where(orchard_id: orchard_id).update(ended_at: Sequel::CURRENT_TIMESTAMP)
        end
      end
    end
  end
end
