# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Reads a previewed file in the background.
      class ReadFile < Que::Job
        self.maximum_retry_count = 3

        def run(import_id)
          import = Records::Import[import_id] or return
          BringIn.write(import, today: Outside::Clock.today(import.orchard.time_zone))
        end
      end
    end
  end
end
