# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # The best choice for some limbs by branch and bound, within limits: those of their trees, and the shared ones.
      class AllotmentSearch
        # @param problem [AllotmentProblem]
        # @param limbs [Array] those that are chosen among
        # @param gains [Proc] of a limb and a season: what it is worth to choose it
        # @param shared [Boolean] whether the shared limits hold here, or are priced
        # @param nodes [Integer, nil] so many choices are looked at; nil for all
        def initialize(problem, limbs: problem.limbs, gains: ->(limb, season) { limb.values[season] }, shared: true,
                       nodes: nil)
          @problem = problem
          @shared = shared
          @nodes = nodes
          @options = limbs.map { |limb| options(limb, gains) }
            .sort_by { |limb, all| [limb.fixed ? 0 : 1, -(all.first&.last || 0.0), limb.place] }
          @rest = @options.map { |limb, all| limb.fixed ? all.first.last : all.first&.last || 0.0 }
            .reverse.inject([0.0]) { |sums, most| sums << (sums.last + most) }.reverse
        end

        # @return [Hash] +chosen+ (limb => season), +value+, and +bound+, which is the value where all was looked at
        def best
          @best, @best_value = {}, nil
          @chosen, @used, @heads, @seen = {}, Hash.new(0.0), Hash.new(0.0), 0
          whole = descend(0, 0.0)
          { chosen: @best, value: @best_value || 0.0, bound: whole ? @best_value || 0.0 : @rest.first }
        end

        private

        # Seasons by gain, the best first; nothing is chosen that brings nothing, unless it is fixed.
        def options(limb, gains)
          all = limb.seasons.map { |season| [season, gains.call(limb, season)] }
          all = all.select { |_, gain| gain > Near::TOLERANCE } unless limb.fixed
          [limb, all.sort_by { |season, gain| [-gain, season] }]
        end

        # @return [Boolean] whether all that could be better was looked at
        def descend(at, value)
          @seen += 1
          return false if @nodes && @seen > @nodes
          return keep(value) if at == @options.size
          return true if @best_value && value + @rest[at] <= @best_value + Near::TOLERANCE

          limb, all = @options[at]
          whole = all.select { |season, _| fits?(limb, season) }
            .map { |season, gain| with(limb, season) { descend(at + 1, value + gain) } }
          whole << descend(at + 1, value) unless limb.fixed
          whole.all?
        end

        def keep(value)
          @best, @best_value = @chosen.dup, value if @best_value.nil? || value > @best_value + Near::TOLERANCE
          true
        end

        def fits?(limb, season)
          Near.at_most?(@heads[head(limb, season)] + limb.share, @problem.caps[limb.tree]) &&
            (!@shared || limb.uses[season].all? do |limit, amount|
              Near.at_most?(@used[limit] + amount, @problem.limits[limit])
            end)
        end

        def with(limb, season)
          place(limb, season, 1)
          @chosen[limb] = season
          yield
        ensure
          @chosen.delete(limb)
          place(limb, season, -1)
        end

        def place(limb, season, sign)
          @heads[head(limb, season)] += sign * limb.share
          limb.uses[season].each { |limit, amount| @used[limit] += sign * amount } if @shared
        end

        def head(limb, season) = limb.tree * @problem.seasons + season
      end
    end
  end
end
