# frozen_string_literal: true

module Vestry
  module Deeds
    # Whatever is recorded of a graft happened after it was made, and not tomorrow.
    module DayOfGraft
      def self.check(graft, field, day, today)
        if day > today
          raise Refused, field => [SaidDay.ahead(today)]
        elsif day < graft.grafted_on
          raise Refused, field => ["is before the graft was made on #{SaidDay.of(graft.grafted_on)}"]
        end
      end
    end
  end
end
