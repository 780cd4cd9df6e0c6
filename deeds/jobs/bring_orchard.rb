# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Tries a packed orchard, or brings it in, in the background.
      class BringOrchard < Que::Job
        self.maximum_retry_count = 3

        def run(id) = Records::Arrival[id]&.then { |arrival| Deeds::BringOrchard.go_on(arrival) }
      end
    end
  end
end
