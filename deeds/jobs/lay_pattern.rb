# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Plans many trees in the background.
      class LayPattern < Que::Job
        self.maximum_retry_count = 3

        def run(pattern_id, today = nil)
          pattern = Records::Pattern[pattern_id] or return
          Deeds::LayPattern.write(pattern, today: today ? Date.iso8601(today) :
                                  Outside::Clock.today(pattern.orchard.time_zone))
        end
      end
    end
  end
end
