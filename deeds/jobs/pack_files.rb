# frozen_string_literal: true

require "que"

module Vestry
  module Deeds
    module Jobs
      # Packs an orchard in the background.
      class PackFiles < Que::Job
        self.maximum_retry_count = 3

        def run(id) = PackOrchard.write(id)
      end
    end
  end
end
