# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Allots an orchard's limbs to seasons in the background.
      class Allot < Que::Job
        self.maximum_retry_count = 1

        def run(run_id, today)
          run = Records::AllotmentRun[run_id] or return
          run.orchard.with_current { AllotOrchard.write(run, today: Date.iso8601(today)) }
        end
      end
    end
  end
end
