# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # Days of which no weather is known, between days of which it is.
      module Gaps
        module_function

        # Days in order, with those that are missing between two of them filled in: as warm as a straight line from one
        # to the other, with no rain and no gust told. Where too many are missing in a row, none is.
        #
        # @param days [Array<Hash>] +date+, +min_c+, +max_c+, in order
        # @return [Array<Hash>]
        def filled(days, rulebook)
          return days if days.empty? || whole?(days)

          most = most(rulebook)
          days.each_cons(2).flat_map { |one, other| [one, *between(one, other, most)] } + days.last(1)
        end

        # Whether too many in a row are missing from a day to the last of some days.
        #
        # @param days [Array<Hash>] in order
        # @param from [Date]
        def broken?(days, from, rulebook)
          return false if days.empty?

          most = most(rulebook)
          return days.first[:date].jd - from.jd > most if whole?(days)

          [from.jd - 1, *days.map { |day| day[:date].jd }].each_cons(2).any? { |one, other| other - one - 1 > most }
        end

        # So many missing in a row are guessed from those about them.
        def most(rulebook) = rulebook.value("reckoning.slip.gap_days")

        def whole?(days) = days.last[:date].jd - days.first[:date].jd < days.size

        def between(one, other, most)
          missing = (other[:date] - one[:date]).to_i - 1
          return [] unless missing.between?(1, most)

          (1..missing).map do |n|
            along = ->(name) { one[name] + (other[name] - one[name]) * n / (missing + 1.0) }
            { date: one[:date] + n, min_c: along[:min_c], max_c: along[:max_c], rain_mm: nil, gust_ms: nil }
          end
        end
        private_class_method :whole?, :between
      end
    end
  end
end
