# frozen_string_literal: true

module Vestry
  module Deeds
    # Whatever is recorded of a graft happened after it was made, and not tomorrow.
    module DayOfGraft
      def self.check(graft, field, day, today)
        if day > today
          raise Refused, field => ["lies in the future; #{today.iso8601} is the latest that can be recorded"]
        elsif day < graft.grafted_on
          raise Refused, field => ["is before the graft was made on #{graft.grafted_on.iso8601}"]
        end
      end
    end
  end
end
