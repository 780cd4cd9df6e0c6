# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Looks a large file through in the background.
      class LookThrough < Que::Job
        self.maximum_retry_count = 3

        def run(import_id)
          import = Records::Import[import_id] or return
          BringIn.look_through(import, today: Outside::Clock.today(import.orchard.time_zone))
        end
      end
    end
  end
end
