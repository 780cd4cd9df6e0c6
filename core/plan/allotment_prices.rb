# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # A large orchard's choice by prices: each shared limit has one, each tree is solved by itself at those, and where
      # more is asked of a limit than there is its price rises.
      class AllotmentPrices
        ROUNDS = 200
        # Choices looked at for one tree in one round, and how often all limbs are tried elsewhere at the end.
        NODES = 4000
        EXCHANGES = 6
        private_constant :ROUNDS, :NODES, :EXCHANGES

        # @param problem [AllotmentProblem]
        def initialize(problem)
          @problem = problem
          @by_tree = problem.limbs.group_by(&:tree).values
        end

        # @return [Hash] +chosen+, +value+, +bound+ and +binding+
        def best
          prices = Hash.new(0.0)
          chosen = filled(prices)
          bound, kept, step = Float::INFINITY, prices.dup, 2.0
          ROUNDS.times do |round|
            at, asked, wished = relaxed(prices)
            bound, kept, step = better(at, prices, bound, kept, step, round)
            chosen = better_filled(chosen, prices, wished) if (round % 5).zero?
            break unless move(prices, asked, step * (at - @problem.value(chosen)))
          end
          chosen = exchanged(better_filled(chosen, kept, relaxed(kept).last))
          { chosen: chosen, value: @problem.value(chosen), bound: bound, binding: binding_at(kept, chosen) }
        end

        private

        def better(at, prices, bound, kept, step, round)
          return [at, prices.dup, step] if at < bound - Near::TOLERANCE

          [bound, kept, (round % 15) == 14 ? step / 2 : step]
        end

        # The value at these prices, which no choice passes, and what is asked of each limit beyond what there is.
        #
        # @return [Array(Float, Hash, Hash)] with what every tree would choose by itself
        def relaxed(prices)
          gains = ->(limb, season) { gain(limb, season, prices) }
          found = @by_tree.map do |limbs|
            AllotmentSearch.new(@problem, limbs: limbs, shared: false, nodes: NODES, gains: gains).best
          end
          wished = found.map { |each| each[:chosen] }.reduce({}, :merge)
          paid = prices.sum(0.0) { |limit, price| price * @problem.limits[limit] }
          [paid + found.sum { |each| each[:bound] }, asked(wished), wished]
        end

        def asked(chosen)
          over = @problem.limits.transform_values(&:-@)
          chosen.each { |limb, season| limb.uses[season].each { |limit, amount| over[limit] += amount } }
          over
        end

        def gain(limb, season, prices)
          limb.values[season] - limb.uses[season].sum(0.0) { |limit, amount| prices[limit] * amount }
        end

        # @return [Boolean] whether there was anywhere to go
        def move(prices, asked, length)
          slope = asked.select { |limit, over| over.positive? || prices[limit].positive? }
          size = slope.sum { |_, over| over**2 }
          return false unless size > Near::TOLERANCE && length > Near::TOLERANCE

          slope.each { |limit, over| prices[limit] = [prices[limit] + length / size * over, 0.0].max }
          true
        end

        def better_filled(chosen, prices, wished)
          other = filled(prices, wished)
          @problem.value(other) > @problem.value(chosen) + Near::TOLERANCE ? other : chosen
        end

        # What the trees wish, then all others, by what they gain at these prices, as long as nothing is passed.
        def filled(prices, wished = {})
          room = Room.new(@problem, @problem.limbs.select(&:fixed).to_h { |limb| [limb, limb.fixed] })
          [wished, others].each do |pairs|
            by_gain(pairs, prices).each { |limb, season| room.take(limb, season) if room.for?(limb, season) }
          end
          room.chosen
        end

        def others
          @others ||= @problem.limbs.reject(&:fixed).flat_map { |limb| limb.seasons.map { |season| [limb, season] } }
        end

        def by_gain(pairs, prices)
          pairs.sort_by { |limb, season| [-gain(limb, season, prices), -limb.values[season], limb.place, season] }
        end

        # Limbs put in another season, or in another's place, while that is worth more.
        def exchanged(chosen)
          EXCHANGES.times do
            room = Room.new(@problem, chosen)
            moved = @problem.limbs.reject(&:fixed).sort_by { |limb| [-limb.values.max, limb.place] }
              .map { |limb| room.improve(limb) }
            break chosen = room.chosen unless moved.any?

            chosen = room.chosen
          end
          chosen
        end

        # What binds: limits with a price that are all but used up.
        def binding_at(prices, chosen)
          over = asked(chosen)
          spent = ->(limit) { -over[limit] < [@problem.limits[limit] * 0.1, 1].max }
          prices.select { |limit, price| price > Near::TOLERANCE && spent[limit] }
            .map { |(what, season), price| { what: what, season: season, price: price } }
            .sort_by { |each| [-each[:price], each[:season], each[:what].to_s] }
        end

        # What is chosen, what it is worth, and what is left of every limit.
        class Room
          attr_reader :chosen, :value

          def initialize(problem, chosen = {})
            @left = problem.limits.dup
            @heads = Hash.new { |heads, (tree, season)| heads[[tree, season]] = problem.caps[tree] }
            @users = Hash.new { |users, limit| users[limit] = {} }
            @chosen = {}
            @value = 0.0
            @steps = []
            chosen.each { |limb, season| take(limb, season) }
          end

          def for?(limb, season)
            !@chosen.key?(limb) && limb.values[season] > Near::TOLERANCE &&
              Near.at_most?(limb.share, @heads[[limb.tree, season]]) &&
              limb.uses[season].all? { |limit, amount| Near.at_most?(amount, @left[limit]) }
          end

          # Sets a limb in a season.
          def take(limb, season)
            @chosen[limb] = season
            change(limb, season, 1)
            each_user(limb, season) { |users| users[limb] = true }
          end

          # Puts a limb where it is worth more, others making room and set elsewhere where they can be, as long as all
          # together is worth more.
          #
          # @return [Boolean] whether anything was moved
          def improve(limb)
            now = @chosen[limb] ? limb.values[@chosen[limb]] : 0.0
            limb.seasons.select { |season| limb.values[season] > now + Near::TOLERANCE }
              .sort_by { |season| -limb.values[season] }.any? { |season| moved?(limb, season) }
          end

          private

          def leave(limb)
            season = @chosen.delete(limb)
            change(limb, season, -1)
            each_user(limb, season) { |users| users.delete(limb) }
          end

          def change(limb, season, sign)
            @value += sign * limb.values[season]
            @heads[[limb.tree, season]] -= sign * limb.share
            limb.uses[season].each { |limit, amount| @left[limit] -= sign * amount }
            @steps << [limb, season, sign]
          end

          def each_user(limb, season)
            yield @users[[:head, limb.tree, season]]
            limb.uses[season].each { |limit, _| yield @users[limit] }
          end

          def moved?(limb, season)
            @steps.clear
            before = @value
            leave(limb) if @chosen.key?(limb)
            gone = made_room(limb, season)
            return back unless gone

            take(limb, season)
            gone.sort_by { |other| -other.values.max }.each { |other| settle(other) }
            @value > before + Near::TOLERANCE || back
          end

          # Those that had to go, the least worth first; nil where so many are too many.
          def made_room(limb, season)
            gone = []
            until for?(limb, season)
              other = rival(limb, season)
              return nil if other.nil? || gone.size == MOST_GONE

              gone << other
              leave(other)
            end
            gone
          end

          def rival(limb, season)
            scarce = limb.uses[season].select { |what, amount| amount > @left[what] + Near::TOLERANCE }.map(&:first)
            scarce << [:head, limb.tree, season] if limb.share > @heads[[limb.tree, season]] + Near::TOLERANCE
            scarce.flat_map { |limit| @users[limit].keys }.reject(&:fixed)
              .min_by { |other| [other.values[season], other.place] }
          end

          def settle(limb)
            season = limb.seasons.select { |each| for?(limb, each) }.max_by { |each| limb.values[each] }
            take(limb, season) if season
          end

          # Takes back the steps of a move.
          def back
            @steps.dup.reverse_each { |limb, season, sign| sign.positive? ? leave(limb) : take(limb, season) }
            false
          end

          MOST_GONE = 3
          private_constant :MOST_GONE
        end
        private_constant :Room
      end
    end
  end
end
