# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # Chances over counts: how many stubs fail, how many sticks stand. What is less likely than one in a
      # quadrillion is left out, so that many stubs cost little.
      module Failures
        # A chance below this, beside the greatest, is none.
        NONE = 1e-16
        # Steps over which an uncertain success is laid.
        STEPS = 400
        # What is counted on as much as so many stubs, where the orchard's own are few.
        PRIOR = 8

        module_function

        # How many of some stubs fail.
        #
        # @param stubs [Integer]
        # @param sticks [Integer] on each; a stub fails when all do
        # @param success [Float] share of single sticks that take
        # @param trials [Integer, nil] stubs it was learned from; nil where it is known
        # @return [Hash{Integer=>Float}] the chance of each count, summing to one
        def of(stubs, sticks, success, trials)
          return binomial(stubs, (1 - success)**sticks) if trials.nil? || success <= 0 || success >= 1

          chances = Array.new(stubs + 1, 0.0)
          beliefs(success, trials).each do |p, weight|
            each_chance(stubs, (1 - p)**sticks, weight) { |count, chance| chances[count] += chance }
          end
          normed(chances.each_with_index.filter_map { |chance, count| [count, chance] if chance.positive? })
        end

        # A success as the Beta distribution with this mean, worth eight stubs and those counted, in steps.
        #
        # @return [Array<Array(Float, Float)>] success and its weight, summing to one
        def beliefs(success, trials)
          steps = Array.new(STEPS) { |i| (i + 0.5) / STEPS }
          logs = steps.map { |p| log_density(p, success * (trials + PRIOR), (1 - success) * (trials + PRIOR)) }
          most = logs.max
          weights = logs.map { |log| Math.exp(log - most) }
          sum = weights.sum
          steps.zip(weights).filter_map { |p, weight| [p, weight / sum] if weight > NONE }
        end

        # The logarithm of the Beta density, but for a constant.
        def log_density(p, a, b) = (a - 1) * Math.log(p) + (b - 1) * Math.log(1 - p)

        # @return [Hash{Integer=>Float}] in order of the counts
        def binomial(trials, share)
          found = []
          each_chance(trials, share, 1.0) { |count, chance| found << [count, chance] }
          normed(found.sort_by(&:first))
        end

        # The chance of each count that is likely at all, times a weight: from the most likely one outwards, so that
        # many
        # trials do not vanish below the smallest float.
        def each_chance(trials, share, weight)
          return yield(share <= 0 ? 0 : trials, weight) if trials.zero? || share <= 0 || share >= 1

          middle = [((trials + 1) * share).floor, trials].min
          most = weight * Math.exp(log_chance(trials, middle, share))
          odds = share / (1 - share)
          yield middle, most
          upwards(middle, most, trials, odds) { |count, chance| yield count, chance }
          downwards(middle, most, trials, odds) { |count, chance| yield count, chance }
        end

        # From a count and its chance upwards, and the other way.
        def upwards(count, chance, trials, odds)
          while count < trials && (chance *= (trials - count) / (count + 1.0) * odds) > NONE
            yield count += 1, chance
          end
        end

        # The same downwards.
        def downwards(count, chance, trials, odds)
          while count.positive? && (chance *= count / ((trials - count + 1) * odds)) > NONE
            yield count -= 1, chance
          end
        end

        # The logarithm of the chance of just so many.
        def log_chance(trials, count, share)
          ways = Math.lgamma(trials + 1).first - Math.lgamma(count + 1).first - Math.lgamma(trials - count + 1).first
          ways + count * Math.log(share) + (trials - count) * Math.log(1 - share)
        end

        # @param chances [Array<Array(Integer, Float)>]
        # @return [Hash{Integer=>Float}] the same summing to one
        def normed(chances)
          sum = chances.sum { |_, chance| chance }
          chances.to_h { |count, chance| [count, chance / sum] }
        end

        # Two independent counts added.
        #
        # @return [Hash{Integer=>Float}]
        def sum(one, other)
          found = Hash.new(0.0)
          one.each { |a, first| other.each { |b, second| found[a + b] += first * second if first * second > NONE } }
          found
        end

        # The least count that is not exceeded with this confidence.
        def least(chances, confidence)
          sum = 0.0
          chances.sort.each { |count, chance| return count if Near.at_least?(sum += chance, confidence) }
          chances.keys.max
        end
      end
    end
  end
end
