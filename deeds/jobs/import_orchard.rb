# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Tries a packed orchard, or brings it in, in the background.
      class ImportOrchard < Que::Job
        self.maximum_retry_count = 3

        def run(id) = Records::Upload[id]&.then { |upload| Deeds::ImportOrchard.go_on(upload) }
      end
    end
  end
end
