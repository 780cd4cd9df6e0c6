# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Which limbs to take in which season, so that no season takes too much of the head, the
      # head stays balanced, and high limbs go first.
      module Stages
        extend Reckoning

        EXACT = 12

        contract "stages", "Which limbs to take in which season" do
          list :limbs do
            key :id
            number :share, least: 0, most: 1, help: "of the head, that goes with it"
            number :bearing_deg, unit: "degrees from north", least: 0, below: 360
            number :height_mm, unit: "mm", least: 0
          end
          number :cap, least: 0, most: 1, help: "the most of the head one season may take"
          integer :seasons_max, above: 0
        end

        # Fewest seasons first, then least cost = the greatest season's removal
        # + 0.5 x the mean over seasons of how far each leans
        # + 0.3 x the sum of share x height (0 lowest, 1 highest) x season (from 0).
        #
        # Exact to 12 limbs, by branch and bound over every assignment; beyond that the best
        # found by moving and exchanging single limbs from a start that fills seasons from the
        # top of the tree down (+exact+ is false).
        #
        # @return [Hash] +feasible+, +seasons+ (ids by season), +removed+ (share by season),
        #   +cost+, +exact+; infeasible: +reasons+ with what cap or how many seasons would do
        def self.call(limbs:, cap:, seasons_max:, rulebook: Rulebook.shipped)
          raise BadInput.new("limbs", "at least one limb") if limbs.empty?
          raise BadInput.new("limbs", "limbs of different ids") if limbs.map { |each| each[:id] }.uniq.size < limbs.size

          search = Search.new(limbs, cap, rulebook)
          most = [seasons_max, limbs.size].min
          too_large = limbs.find { |each| !Near.at_most?(each[:share], cap) }
          found = too_large ? nil : (1..most).lazy.filter_map { |count| search.best(count) }.first
          return infeasible(limbs, cap, seasons_max, too_large, search) unless found

          seasons, cost = found
          { feasible: true, seasons: seasons.map { |season| season.map { |limb| limb[:id] } }, removed: seasons.map { |season| season.sum { |limb| limb[:share] } },
            cost: cost, exact: limbs.size <= EXACT, reasons: [] }
        end

        def self.infeasible(limbs, cap, seasons_max, too_large, search)
          reasons = []
          reasons << { code: "stages_limb_over_cap", limb: too_large[:id], share: too_large[:share], cap: cap } if too_large
          enough = too_large ? nil : ((seasons_max + 1)..limbs.size).find { |count| search.best(count) }
          reasons << { code: "stages_more_seasons", seasons: enough } if enough
          reasons << { code: "stages_higher_cap", cap: least_cap(limbs, seasons_max) }
          { feasible: false, seasons: [], removed: [], cost: nil, exact: limbs.size <= EXACT, reasons: reasons }
        end

        # A cap with which this many seasons do: the largest season when each limb goes to the
        # emptiest one, largest first.
        def self.least_cap(limbs, seasons)
          loads = Array.new([seasons, limbs.size].min, 0.0)
          limbs.map { |each| each[:share] }.sort.reverse_each { |share| loads[loads.index(loads.min)] += share }
          loads.max
        end
        private_class_method :infeasible, :least_cap

        # The search over assignments for one tree.
        class Search
          def initialize(limbs, cap, rulebook)
            @even = rulebook.value("reckoning.stages.even")
            @high_first = rulebook.value("reckoning.stages.high_first")
            low, high = limbs.map { |each| each[:height_mm] }.minmax
            @limbs = limbs
            @cap = cap
            @facts = limbs.map do |limb|
              angle = limb[:bearing_deg] * Math::PI / 180
              z = high > low ? (limb[:height_mm] - low) / (high - low) : 0.0
              [limb[:share], limb[:share] * Math.sin(angle), limb[:share] * Math.cos(angle), limb[:share] * z]
            end
            # Large limbs first: they decide soonest whether a branch can be right.
            @order = (0...limbs.size).sort_by { |i| [-@facts[i][0], i] }
          end

          # @return [Array(Array<Array>, Float), nil] the seasons and their cost, or nil when none fits
          def best(count)
            assignment, cost = @limbs.size <= EXACT ? exact(count) : heuristic(count)
            return nil unless assignment

            seasons = Array.new(count) { |season| @limbs.each_index.select { |i| assignment[i] == season }.map { |i| @limbs[i] } }
            [seasons, cost]
          end

          private

          def exact(count)
            @count = count
            @best = nil
            @best_cost = Float::INFINITY
            @assigned = Array.new(@limbs.size)
            @sums = Array.new(count) { [0.0, 0.0, 0.0] }
            @sizes = Array.new(count, 0)
            descend(0, 0.0)
            [@best, @best_cost]
          end

          def descend(place, late)
            if place == @order.size
              return if @sizes.any?(&:zero?)

              cost = cost(late)
              return unless cost < @best_cost - Near::TOLERANCE

              @best_cost = cost
              @best = @assigned.dup
              return
            end
            return if @order.size - place < @sizes.count(&:zero?)

            share, x, y, high = @facts[@order[place]]
            @count.times do |season|
              sums = @sums[season]
              next unless Near.at_most?(sums[0] + share, @cap)

              later = late + high * season
              # What is removed and how late the high limbs go can only grow from here.
              next if [sums[0] + share, *@sums.map(&:first)].max + @high_first * later >= @best_cost - Near::TOLERANCE

              before = sums.dup
              sums[0] += share
              sums[1] += x
              sums[2] += y
              @sizes[season] += 1
              @assigned[@order[place]] = season
              descend(place + 1, later)
              @sizes[season] -= 1
              @sums[season] = sums.replace(before)
            end
          end

          def cost(late) = @sums.map(&:first).max + @even * @sums.sum { |_, x, y| Math.hypot(x, y) } / @count + @high_first * late

          def total(assignment, count)
            sums = Array.new(count) { [0.0, 0.0, 0.0] }
            sizes = Array.new(count, 0)
            late = 0.0
            assignment.each_with_index do |season, i|
              share, x, y, high = @facts[i]
              sums[season] = [sums[season][0] + share, sums[season][1] + x, sums[season][2] + y]
              sizes[season] += 1
              late += high * season
            end
            return Float::INFINITY if sizes.any?(&:zero?) || sums.any? { |removed, *| !Near.at_most?(removed, @cap) }

            sums.map(&:first).max + @even * sums.sum { |_, x, y| Math.hypot(x, y) } / count + @high_first * late
          end

          def heuristic(count)
            assignment = start(count) or return [nil, nil]
            cost = total(assignment, count)
            loop do
              better = moves(assignment, count).map { |moved| [total(moved, count), moved] }.min_by(&:first)
              break unless better && better[0] < cost - Near::TOLERANCE

              cost, assignment = better
            end
            cost.finite? ? [assignment, cost] : [nil, nil]
          end

          # Each limb to the emptiest season that still has room, largest first.
          def start(count)
            loads = Array.new(count, 0.0)
            @order.each_with_object(Array.new(@limbs.size)) do |i, assignment|
              season = (0...count).min_by { |each| [loads[each], each] }
              return nil unless Near.at_most?(loads[season] + @facts[i][0], @cap)

              loads[season] += @facts[i][0]
              assignment[i] = season
            end
          end

          def moves(assignment, count)
            singles = assignment.each_index.flat_map { |i| (0...count).reject { |season| season == assignment[i] }.map { |season| assignment.dup.tap { |moved| moved[i] = season } } }
            pairs = assignment.each_index.to_a.combination(2).reject { |i, j| assignment[i] == assignment[j] }
                              .map { |i, j| assignment.dup.tap { |moved| moved[i], moved[j] = moved[j], moved[i] } }
            singles + pairs
          end
        end
        private_constant :Search
      end
    end
  end
end
