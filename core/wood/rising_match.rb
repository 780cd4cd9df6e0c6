# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # Places whose limits rise together, matched to sticks in one pass over both sorted sides: exchanging two
      # pairs that cross never serves fewer nor fits worse, so an optimum exists that does not cross.
      module RisingMatch
        module_function

        # F[i][j], the best of the first i places and j sticks, is the best of F[i-1][j], F[i][j-1] and, where
        # stick j can go to place i, F[i-1][j-1] with that pair. More places first, then less misfit.
        #
        # @param places [Array<Match::Place>] each limit rising or equal from one to the next
        # @param sticks [Array<Hash>] by +diameter_mm+, rising
        # @return [Array<Hash>] +site+, +stick+, +misfit_mm+
        def pairs(places, sticks)
          width = sticks.size
          sizes = sticks.map { |stick| stick[:diameter_mm] }
          # Serving one more is worth more than all misfits together.
          served = 1.0 + places.sum { |place| most_misfit(place) }
          above = Array.new(width + 1, 0.0)
          taken = places.map do |place|
            row, chosen = fill(place, sizes, above, served)
            above = row
            chosen
          end
          unwind(places, sticks, taken)
        end

        def most_misfit(place)
          place.high.finite? ? [place.ideal_low - place.low, place.high - place.ideal_high].max : 0.0
        end

        # One row of F, and by column what it came from: nil (the place stays empty), :skip (the stick is left) or
        # the misfit of the pair.
        def fill(place, sizes, above, served)
          row, chosen = Array.new(sizes.size + 1, 0.0), Array.new(sizes.size + 1)
          low, high = place.low - Near::TOLERANCE, place.high + Near::TOLERANCE
          ideal_low, ideal_high = place.ideal_low, place.ideal_high
          left = 0.0
          sizes.each_with_index do |mm, j|
            best, from = above[j + 1], nil
            best, from = left, :skip if left > best
            if mm >= low && mm <= high
              misfit = mm < ideal_low ? ideal_low - mm : (mm > ideal_high ? mm - ideal_high : 0.0)
              value = above[j] + served - misfit
              best, from = value, misfit if value > best
            end
            row[j + 1] = left = best
            chosen[j + 1] = from
          end
          [row, chosen]
        end

        def unwind(places, sticks, taken)
          found, i, j = [], places.size - 1, sticks.size
          while i >= 0 && j.positive?
            case (from = taken[i][j])
            when nil then i -= 1
            when :skip then j -= 1
            else
              found << { site: places[i].site, stick: sticks[j - 1][:id], misfit_mm: from }
              i -= 1
              j -= 1
            end
          end
          found.reverse
        end
        private_class_method :most_misfit, :fill, :unwind
      end
    end
  end
end
