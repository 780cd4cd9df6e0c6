# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Sends a letter; where the mail service is silent, again for about a day.
      class SendLetter < Que::Job
        self.maximum_retry_count = 14
        self.retry_interval = ->(count) { [30 * 2**count, 3 * 3600].min }

        def run(id) = PostLetter.send_on(id)
      end
    end
  end
end
