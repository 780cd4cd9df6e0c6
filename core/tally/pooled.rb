# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # What took by several kinds at once, each drawn towards the whole by as much as it was counted seldom: a logistic
      # with a random effect for every level of every factor, and one for every tree.
      #
      # The fit is the penalised one of Breslow and Clayton (1993): Newton's steps for the effects, with the variance of
      # each factor's levels renewed from their posterior between rounds. A tree's effect stands in its own stubs alone,
      # so that trees are eliminated one by one before the rest is solved by Cholesky.
      class Pooled
        # A kind with its posterior: +rate+, +low+ and +high+ (95 %) at the mean of everything else.
        PooledKind = Struct.new(:kind, :trials, :takes, :rate, :low, :high, keyword_init: true)

        ROUNDS, STEPS = 12, 6
        # Of the levels of one factor, in logits: where the fit begins, and between which it stays.
        FIRST, LEAST, MOST = 0.3, 0.01, 4.0
        # Of the whole's logit beforehand: nothing is known of it.
        VAGUE = 100.0
        WIDTH = 1.959963984540054
        private_constant :ROUNDS, :STEPS, :FIRST, :LEAST, :MOST, :VAGUE, :WIDTH

        # @param rows [Array<Hash>] stubs: +take+ (true or false), +tree+, and a value for each of +factors+
        # @param factors [Array<Symbol>] the first is the one asked about
        def initialize(rows, factors)
          @rows = rows
          @factors = factors
          @levels = factors.to_h { |factor| [factor, rows.map { |row| row[factor] }.uniq] }
          @at = {}
          @levels.each { |factor, all| all.each { |level| @at[[factor, level]] = @at.size + 1 } }
          @places = rows.map { |row| [0, *factors.map { |factor| @at.fetch([factor, row[factor]]) }] }
          @trees = rows.each_index.group_by { |n| rows[n][:tree] }.values
          fit
        end

        # @return [Array<PooledKind>] of the first factor, most counted first
        def kinds
          @kinds ||= @levels.fetch(asked).map { |level| kind(level) }.sort_by { |each| [-each.trials, each.kind.to_s] }
        end

        # How likely one kind takes more often than another.
        #
        # @return [Float] 0..1
        def likely(one, other)
          a, b = @at.fetch([asked, one]), @at.fetch([asked, other])
          spread = @inverse[a][a] + @inverse[b][b] - 2 * @inverse[a][b]
          return 0.5 unless spread.positive?

          0.5 * (1 + Math.erf((@effects[a] - @effects[b]) / Math.sqrt(2 * spread)))
        end

        private

        def asked = @factors.first

        def kind(level)
          own = @rows.select { |row| row[asked] == level }
          low, rate, high = bounds(@at.fetch([asked, level]))
          PooledKind.new(kind: level, trials: own.size, takes: own.count { |row| row[:take] }, rate: rate, low: low,
                   high: high)
        end

        def bounds(at)
          logit = @effects[0] + @effects[at]
          wide = WIDTH * Math.sqrt(@inverse[0][0] + @inverse[at][at] + 2 * @inverse[0][at])
          [logit - wide, logit, logit + wide].map { |each| share(each) }
        end

        def share(logit) = 1 / (1 + Math.exp(-logit))

        def fit
          @variances = @factors.to_h { |factor| [factor, FIRST] }
          @of_trees = FIRST
          @effects = Array.new(@at.size + 1, 0.0)
          @on_trees = Array.new(@trees.size, 0.0)
          ROUNDS.times do
            STEPS.times { break if step < 1e-6 }
            renew
          end
          STEPS.times { break if step < 1e-9 }
        end

        # One step of Newton's for all effects.
        #
        # @return [Float] the largest change
        def step
          matrix, right, parts = normal_equations
          @inverse = Cholesky.inverse(matrix)
          change = @inverse.map { |row| row.zip(right).sum { |a, b| a * b } }
          @effects = @effects.zip(change).map(&:sum)
          on_trees = parts.map { |part| on_tree(part, change) }
          @on_trees = @on_trees.zip(on_trees).map(&:sum)
          (change + on_trees).map(&:abs).max
        end

        # What a tree's own effect changes by, once the others have.
        def on_tree((weight, slope, beside), change)
          (slope - beside.sum { |place, each| each * change[place] }) / weight
        end

        # The equations with every tree eliminated, and each tree's own part of them.
        def normal_equations
          size = @effects.size
          matrix = Array.new(size) { |n| Array.new(size, 0.0).tap { |row| row[n] = 1 / variance(n) } }
          right = @effects.each_with_index.map { |effect, n| -effect / variance(n) }
          parts = @trees.each_with_index.map { |stubs, tree| tree_part(stubs, tree, matrix, right) }
          [matrix, right, parts]
        end

        # Adds a tree's stubs to the equations, less what its own effect takes up.
        #
        # @return [Array(Float, Float, Hash)] its weight, slope, and weights beside each effect
        def tree_part(stubs, tree, matrix, right)
          sums = [1 / @of_trees, -@on_trees[tree] / @of_trees]
          beside = Hash.new(0.0)
          stubs.each { |n| add_stub(n, @on_trees[tree], sums, beside, matrix, right) }
          weight, slope = sums
          beside.each do |a, one|
            right[a] -= one * slope / weight
            beside.each { |b, other| matrix[a][b] -= one * other / weight }
          end
          (@tree_weights ||= [])[tree] = weight
          [weight, slope, beside]
        end

        def add_stub(stub, on_tree, sums, beside, matrix, right)
          places = @places[stub]
          expected = share(places.sum { |place| @effects[place] } + on_tree)
          own, off = expected * (1 - expected), (@rows[stub][:take] ? 1 : 0) - expected
          sums[0] += own
          sums[1] += off
          places.each do |a|
            beside[a] += own
            right[a] += off
            places.each { |b| matrix[a][b] += own }
          end
        end

        def variance(place)
          place.zero? ? VAGUE : @variances.fetch(factor_of(place))
        end

        def factor_of(place) = (@factor_of ||= @at.to_h { |(factor, _), at| [at, factor] })[place]

        # The variance of each factor's levels, from where they lie and how sure that is.
        def renew
          @levels.each do |factor, all|
            squares = all.sum { |level| @at[[factor, level]].then { |at| @effects[at]**2 + @inverse[at][at] } }
            @variances[factor] = (squares / all.size).clamp(LEAST, MOST)
          end
          squares = @on_trees.each_with_index.sum { |effect, tree| effect**2 + 1 / @tree_weights[tree] }
          @of_trees = (squares / @trees.size).clamp(LEAST, MOST)
        end
      end
    end
  end
end
