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
        elsif graft.limb.gone_on && day > graft.limb.gone_on
          raise Refused, field => ["is after #{graft.limb.label} came off on #{SaidDay.of(graft.limb.gone_on)}"]
        end
      end

      # No shoot is longer than it can have grown since. One that grew on a donor's roots grew before, and of a graft
      # that stood before it was written down the day may be a guess.
      #
      # @param mm [Numeric, nil]
      def self.check_shoot(graft, field, mm, day)
        return if mm.nil? || graft.kind == "approach" || graft.known_since

        days = (day - graft.grafted_on).to_i
        most = Core::Tally::Growth.longest(days, Core::Rulebook.shipped)
        return if mm <= most

        raise Refused, field => ["is more than a shoot grows in #{days} #{days == 1 ? 'day' : 'days'}, " \
                                 "#{Core::Measure.say(most, graft.orchard.units)} at most: check the unit"]
      end
    end
  end
end
