# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # The search for the least costly way of putting a tree's limbs into a given number of seasons.
      class StagesSearch
        # So many limbs are put somewhere else, all in all, in looking for something better.
        MOVES = 1_500_000
        private_constant :MOVES

        # @param limbs [Array<Hash>] as the stages reckoning takes them
        # @param cap [Float] the most of the head a season may take
        # @param count [Integer] seasons, none of which stays empty
        # @param start [Array<Integer>] the season of each limb in some way that keeps the cap
        def initialize(limbs, cap, count, start, rulebook)
          @limbs = limbs
          @cap = cap
          @count = count
          @start = start
          @even = rulebook.value("reckoning.stages.even")
          @high_first = rulebook.value("reckoning.stages.high_first")
          @facts = facts(limbs)
          # Large limbs first: they decide soonest whether a branch can be right.
          @order = @facts.each_index.sort_by { |i| [-@facts[i][0], i] }
          @total = @facts.sum(&:first)
          @lean = Math.hypot(@facts.sum { |each| each[1] }, @facts.sum { |each| each[2] })
        end

        # @param nodes [Integer] so many part-made assignments are looked at; none with 0
        # @return [Hash] +seasons+ (limbs by season), +cost+, +bound+ (no way costs less) and +complete+ (whether
        #   every way was looked at or ruled out)
        def best(nodes:)
          @best, @best_cost = improved(@start)
          @left = nodes
          complete = nodes.positive?
          complete &&= descend_all
          seasons = Array.new(@count) do |season|
            @limbs.each_index.select { |i| @best[i] == season }.map { |i| @limbs[i] }
          end
          { seasons: seasons, cost: @best_cost, bound: [lower_bound, @best_cost].min, complete: complete }
        end

        private

        # Each limb's share of the head, that share times its direction, and times its height (0..1).
        def facts(limbs)
          low, high = limbs.map { |each| each[:height_mm] }.minmax
          limbs.map do |limb|
            aside = limb[:bearing_deg] ? limb[:share] : 0.0
            angle = limb[:bearing_deg].to_f * Math::PI / 180
            height = high > low ? (limb[:height_mm] - low) / (high - low) : 0.0
            [limb[:share], aside * Math.sin(angle), aside * Math.cos(angle), limb[:share] * height]
          end
        end

        # @return [Boolean] whether it went through within the budget
        def descend_all
          @assigned = Array.new(@limbs.size)
          @loads, @east, @north = Array.new(3) { Array.new(@count, 0.0) }
          @sizes = Array.new(@count, 0)
          @empty = @count
          @rest = @order.each_index.map { |place| @order[place..].sum { |i| @facts[i][0] } }
          @by_height = @order.each_index.map do |place|
            @order[place..].sort_by { |i| @facts[i][0].zero? ? 0 : -@facts[i][3] / @facts[i][0] }
          end
          descend(0, 0.0, 0.0, 0.0)
          @left >= 0
        end

        # @param late [Float] what those assigned add for coming late
        # @param fullest [Float] the most that a season removes so far
        # @param leans [Float] how far the seasons lean, added up
        def descend(place, late, fullest, leans)
          return if (@left -= 1).negative?
          return finish(late, fullest, leans) if place == @order.size
          return if @order.size - place < @empty || hopeless?(place, late, fullest, leans)

          i = @order[place]
          share, _, _, high = @facts[i]
          @count.times do |season|
            next if @loads[season] + share > @cap + Near::TOLERANCE

            assign(place, i, season, late + high * season, fullest, leans)
            break if @left.negative?
          end
        end

        # Puts a limb into a season, goes on from there, and takes it out again.
        def assign(place, limb, season, late, fullest, leans)
          share, east, north = @facts[limb]
          load, to_east, to_north = @loads[season], @east[season], @north[season]
          @loads[season] = fuller = load + share
          @east[season] = more_east = to_east + east
          @north[season] = more_north = to_north + north
          @empty -= 1 if @sizes[season].zero?
          @sizes[season] += 1
          @assigned[limb] = season
          leaning = leans - Math.sqrt(to_east * to_east + to_north * to_north) +
                    Math.sqrt(more_east * more_east + more_north * more_north)
          descend(place + 1, late, fuller > fullest ? fuller : fullest, leaning)
          @sizes[season] -= 1
          @empty += 1 if @sizes[season].zero?
          @loads[season], @east[season], @north[season] = load, to_east, to_north
        end

        # Whether nothing cheaper than the best so far can come of what is assigned.
        def hopeless?(place, late, fullest, leans)
          rest = @rest[place]
          room = @count * @cap - (@total - rest)
          return true if rest > room + Near::TOLERANCE

          even_part = @total / @count
          lean = leans - rest
          least = (fullest > even_part ? fullest : even_part) + @even * (lean > @lean ? lean : @lean) / @count
          least + @high_first * late >= @best_cost - Near::TOLERANCE ||
            least + @high_first * (late + latest(place)) >= @best_cost - Near::TOLERANCE
        end

        # The least that the limbs still to come add for coming late: the highest first into the first room.
        def latest(place)
          season, room, sum = 0, @cap - @loads[0], 0.0
          @by_height[place].each do |i|
            share, _, _, high = @facts[i]
            next if high.zero?

            while share > room && season < @count - 1
              part = [room, 0.0].max / share
              sum += high * part * season
              high -= high * part
              share -= [room, 0.0].max
              season += 1
              room = @cap - @loads[season]
            end
            sum += high * season
            room -= share
          end
          sum
        end

        def finish(late, fullest, leans)
          cost = fullest + @even * leans / @count + @high_first * late
          @best, @best_cost = @assigned.dup, cost if cost < @best_cost - Near::TOLERANCE
        end

        # What no assignment goes below: the even part, the lean that all seasons' together come to, and the
        # highest limbs first into the first season's room.
        def lower_bound
          @loads = Array.new(@count, 0.0)
          @by_height = [@facts.each_index.sort_by { |i| @facts[i][0].zero? ? 0 : -@facts[i][3] / @facts[i][0] }]
          [@total / @count, @facts.map(&:first).max].max + @even * @lean / @count + @high_first * latest(0)
        end

        # From a way that keeps the cap, by moving one limb or exchanging two as long as that costs less.
        def improved(assignment)
          cost = total(assignment)
          rounds = MOVES / (@limbs.size**2 * (@count + @limbs.size))
          rounds.times do
            better = moves(assignment).map { |moved| [total(moved), moved] }.min_by(&:first)
            break unless better && better[0] < cost - Near::TOLERANCE

            cost, assignment = better
          end
          [assignment, cost]
        end

        def total(assignment)
          loads, east, north = Array.new(3) { Array.new(@count, 0.0) }
          sizes = Array.new(@count, 0)
          late = 0.0
          assignment.each_with_index do |season, i|
            share, to_east, to_north, high = @facts[i]
            loads[season] += share
            east[season] += to_east
            north[season] += to_north
            sizes[season] += 1
            late += high * season
          end
          return Float::INFINITY if sizes.include?(0) || loads.max > @cap + Near::TOLERANCE

          leaning = (0...@count).sum { |season| Math.hypot(east[season], north[season]) }
          loads.max + @even * leaning / @count + @high_first * late
        end

        def moves(assignment)
          singles = assignment.each_index.flat_map do |i|
            others = (0...@count).reject { |season| season == assignment[i] }
            others.map { |season| assignment.dup.tap { |moved| moved[i] = season } }
          end
          pairs = assignment.each_index.to_a.combination(2).reject { |i, j| assignment[i] == assignment[j] }
          singles + pairs.map { |i, j| assignment.dup.tap { |moved| moved[i], moved[j] = moved[j], moved[i] } }
        end
      end
    end
  end
end
