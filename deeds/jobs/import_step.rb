# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Looks a large file of rows through, or writes what was previewed, in the background.
      class ImportStep < Que::Job
        STEPS = { "preview" => ImportFile.method(:look_through), "write" => ImportFile.method(:write) }.freeze
        self.maximum_retry_count = 3

        # @param step [String] of STEPS
        def run(import_id, step)
          import = Records::Import[import_id] or return
          STEPS.fetch(step).call(import, today: Outside::Clock.today(import.orchard.time_zone))
        end
      end
    end
  end
end
