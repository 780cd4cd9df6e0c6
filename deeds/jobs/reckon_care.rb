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
          enqueue(orchard.id, today.iso8601) if Records::CareRuns.begin(orchard, left)
        end

        def run(orchard_id, today)
          orchard = Records::Orchard[orchard_id] or return
          Records::CareSchedule.refresh(orchard, Date.iso8601(today), most: 1_000_000) do |done|
            Records::CareRuns.tell(orchard_id, done)
          end
        ensure
          Records::CareRuns.end(orchard_id)
        end
      end
    end
  end
end
