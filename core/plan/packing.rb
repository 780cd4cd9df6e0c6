# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How few seasons hold these shares of a head when each may take so much, and the least cap with which a
      # number of seasons does. Exact up to EXACT shares, by dynamic programming over sets; beyond that a packing
      # that is found counts, and what is proved to be impossible, and between the two nothing is claimed.
      class Packing
        EXACT = 16
        # So many steps are taken in looking for a packing of more shares.
        STEPS = 20_000
        # Caps closer than this are the same cap.
        CAP_STEP = 1e-6
        private_constant :CAP_STEP

        # @param shares [Array<Float>] 0..1 each
        def initialize(shares)
          @shares = shares
          @order = shares.each_index.sort_by { |i| [-shares[i], i] }
          @sorted = @order.map { |i| shares[i] }
          @found = {}
        end

        # @return [Integer, nil] the fewest seasons; nil when a share is larger than the cap. Beyond EXACT shares
        #   it is the fewest that were found (see +proved?+)
        def fewest(cap) = pack(cap)&.max&.succ

        # @return [Array<Integer>] the season of each share, as many as +fewest+ says
        def assignment(cap)
          pack(cap).each_with_index.with_object([]) { |(season, place), all| all[@order[place]] = season }
        end

        # @return [Integer] no fewer seasons can do
        def least(cap)
          return @shares.size if cap <= 0 && @sorted.first.positive?

          half = @sorted.count { |share| share > cap / 2 + Near::TOLERANCE }
          [Near.ceil(@shares.sum / cap), half, 1].max
        rescue FloatDomainError
          1
        end

        # Whether no fewer seasons than +fewest+ can do.
        def proved?(cap) = @shares.size <= EXACT || fewest(cap) == least(cap)

        # @return [Float] the least cap with which so many seasons do; beyond EXACT shares one that is known to do
        def least_cap(seasons)
          low = [@sorted.first, @shares.sum / seasons].max
          high = spread(seasons).max
          high = narrowed(seasons, low, high) if high > low + Near::TOLERANCE
          high
        end

        private

        # Halves what lies between a cap that does not do and one that does; each that does brings the upper end
        # down to the fullest season of its packing.
        def narrowed(seasons, low, high)
          while high > low + CAP_STEP
            middle = (low + high) / 2
            found = into(seasons, middle)
            found ? high = [loads(found).max, middle].min : low = middle
          end
          high
        end

        # @return [Array<Integer>, nil] a packing into at most so many seasons
        def into(seasons, cap)
          return nil if !Near.at_most?(@sorted.first, cap) || least(cap) > seasons

          simple = best_fit(cap)
          return simple if simple.max < seasons

          found = search(seasons, cap)
          if found == :not_known && @sorted.size <= EXACT
            found = by_sets(cap).then { |sets| sets.max < seasons ? sets : nil }
          end
          found == :not_known ? nil : found
        end

        # Each share to the emptiest season, largest first.
        def spread(seasons)
          @sorted.each_with_object(Array.new(seasons, 0.0)) { |share, loads| loads[loads.index(loads.min)] += share }
        end

        def loads(seasons)
          @sorted.each_index.with_object(Array.new(seasons.max + 1, 0.0)) { |i, loads| loads[seasons[i]] += @sorted[i] }
        end

        # @return [Array<Integer>, nil] the season of each share in descending order
        def pack(cap)
          return nil unless Near.at_most?(@sorted.first, cap)

          @found[cap] ||= best_fit(cap).then { |simple| simple.max + 1 == least(cap) ? simple : closer(simple, cap) }
        end

        def closer(simple, cap) = (least(cap)..simple.max).lazy.filter_map { |count| into(count, cap) }.first || simple

        # Each share to the fullest season that still holds it, largest first.
        def best_fit(cap)
          loads = []
          @sorted.map do |share|
            roomy = loads.each_index.select { |i| Near.at_most?(loads[i] + share, cap) }
            season = roomy.max_by { |i| [loads[i], -i] } || loads.size
            loads[season] = (loads[season] || 0.0) + share
            season
          end
        end

        # For every set of shares the fewest seasons and, among those, the least load of the last one: the set
        # with one share more goes into that season, or begins another.
        def by_sets(cap)
          count = @sorted.size
          seasons, load, last = Array.new(1 << count, count + 1), Array.new(1 << count, 0.0), Array.new(1 << count)
          seasons[0] = 0
          limit = cap + Near::TOLERANCE
          (0...(1 << count) - 1).each do |set|
            full, used = load[set], seasons[set]
            # The last season is full up to its cap before the first share.
            full = limit + 1 if set.zero?
            count.times do |i|
              next if set[i] == 1

              share = @sorted[i]
              sum = full + share
              more, weight = sum <= limit ? [used, sum] : [used + 1, share]
              bigger = set | 1 << i
              next unless more < seasons[bigger] || (more == seasons[bigger] && weight < load[bigger])

              seasons[bigger], load[bigger], last[bigger] = more, weight, i
            end
          end
          unwind(seasons, last)
        end

        def unwind(seasons, last)
          set = (1 << @sorted.size) - 1
          @sorted.each_index.with_object([]) do |_, found|
            i = last[set]
            found[i] = seasons[set] - 1
            set ^= 1 << i
          end
        end

        # A packing into so many seasons; nil where there is none, :not_known after a number of steps.
        def search(count, cap)
          loads, found, steps = Array.new(count, 0.0), Array.new(@sorted.size), 0
          rest = @sorted.each_index.map { |i| @sorted[i..].sum }
          try = lambda do |place|
            return true if place == @sorted.size
            return false if steps > STEPS || (steps += 1) > STEPS
            return false if rest[place] > loads.sum { |load| cap - load } + Near::TOLERANCE

            share = @sorted[place]
            fullest_first(loads, share, cap).any? do |season|
              before = loads[season]
              loads[season] += share
              found[place] = season
              try.call(place + 1) || (loads[season] = before) && false
            end
          end
          return found if try.call(0)

          steps > STEPS ? :not_known : nil
        end

        # The seasons that still have room for a share, the fullest first; of those alike only one.
        def fullest_first(loads, share, cap)
          roomy = loads.each_index.select { |i| Near.at_most?(loads[i] + share, cap) }
          roomy.uniq { |i| loads[i] }.sort_by { |i| -loads[i] }
        end
      end
    end
  end
end
