# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # What to do with a limb that is thick for grafting: its branches first, then its side, then a ring and patience.
      module LargeLimb
        module_function

        # @param diameter_mm [Float] of the limb where it would be cut
        # @param branches [Array<Hash>] that stand on it: +tag+ and +diameter_mm+
        # @param only [Boolean] it is the only limb of its tree
        # @return [Array<Hash>] codes with figures, what is best first; none for a limb of ordinary size
        def ways(diameter_mm, branches, only:, rulebook:)
          found = only ? [{ code: "limb_only" }] : []
          return found unless diameter_mm > rulebook.value("reckoning.large.from") + Near::TOLERANCE

          low, high = rulebook.value("reckoning.large.branches")
          fit = branches.select { |each| Near.within?(each[:diameter_mm], low, high) }
          found << { code: "large_branches", tags: fit.map { |each| each[:tag] }, from_mm: low, to_mm: high }
          found << { code: "large_side", mm: diameter_mm }
          ring = rulebook.value("reckoning.sticks.ring_most")
          seasons = Near.ceil(diameter_mm * StickChoice.farthest(ring) / rulebook.value("reckoning.closure.fed").to_f)
          found << { code: "large_ring", mm: diameter_mm, sticks: ring, seasons: seasons }
        end
      end
    end
  end
end
