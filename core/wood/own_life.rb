# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # How long cut wood lives here, from sticks of it that were forced in the warm.
      module OwnLife
        # Lives that are weighed: from a third of the book's to three times it, in even steps of their logarithm.
        STEPS = (-110..110).map { |step| Math.exp(step / 100.0) }.freeze
        QUANTILES = [0.025, 0.975].freeze
        private_constant :STEPS, :QUANTILES

        module_function

        # A stick that has aged so many days at 1 °C still moves with 1 / (1 + exp((days / life - 1) / w)), where w is
        # reckoning.storage.dies_within. Before anything is seen a life lies about the book's, its logarithm spread by
        # reckoning.learn.doubt; after it, by Bayes over STEPS. Used only where it tells each year's sticks, from the
        # other years alone, better than the book does.
        #
        # @param book [Numeric] days
        # @param tests [Array<Hash>] +year+, +days+ (of age at 1 °C), +forced+ and +moved+ (sticks)
        # @return [Hash] as Tally::Learned.figure; +seen+ counts the tests, the errors are in shares of sticks
        def figure(book, tests, rulebook: Rulebook.shipped)
          weights = weights(book, tests, rulebook)
          errors = errors(book, tests, rulebook)
          low, high = QUANTILES.map { |share| at(weights, share) * book }
          { book: book.to_f, own: mean(weights) * book, low: low, high: high, seen: tests.size,
            years: tests.map { |test| test[:year] }.uniq.size, book_error: errors&.first, own_error: errors&.last,
            used: !errors.nil? && errors.last < errors.first - Near::TOLERANCE }
        end

        # The chance that a stick of an age still moves.
        def moves(days, life, rulebook)
          1 / (1 + Math.exp((days / life - 1) / rulebook.value("reckoning.storage.dies_within")))
        end

        # How likely each step is, all together one.
        def weights(book, tests, rulebook)
          doubt = rulebook.value("reckoning.learn.doubt")
          logs = STEPS.map do |step|
            tests.sum(-(Math.log(step) / doubt)**2 / 2) { |test| log_chance(test, step * book, rulebook) }
          end
          highest = logs.max
          plain = logs.map { |log| Math.exp(log - highest) }
          plain.map { |each| each / plain.sum }
        end

        def log_chance(test, life, rulebook)
          chance = moves(test[:days], life, rulebook).clamp(1e-9, 1 - 1e-9)
          test[:moved] * Math.log(chance) + (test[:forced] - test[:moved]) * Math.log(1 - chance)
        end

        def mean(weights) = Math.exp(STEPS.zip(weights).sum { |step, weight| weight * Math.log(step) })

        # The first step by which so much of the weight lies.
        def at(weights, share)
          sum = 0.0
          STEPS.zip(weights).find { |_, weight| (sum += weight) >= share }&.first || STEPS.last
        end

        # @return [Array(Float, Float), nil] the book's mean error and that of what the other years tell
        def errors(book, tests, rulebook)
          years = tests.group_by { |test| test[:year] }
          return nil if years.size < 2

          pairs = years.flat_map do |year, own|
            told = mean(weights(book, tests.reject { |test| test[:year] == year }, rulebook)) * book
            own.map { |test| [book, told].map { |life| off(test, life, rulebook) } }
          end
          pairs.transpose.map { |all| all.sum / all.size }
        end

        def off(test, life, rulebook)
          (test[:moved] / test[:forced].to_f - moves(test[:days], life, rulebook)).abs
        end
        private_class_method :weights, :log_chance, :mean, :at, :errors, :off
      end
    end
  end
end
