# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # A figure of the rulebook beside what was seen of it here, and whether that says more than the book.
      module Learned
        WIDTH = 1.959963984540054
        private_constant :WIDTH

        module_function

        # The book counts as much as reckoning.learn.weight sights, so few of them move it little. Its interval is that
        # of their mean about it. It is used only where it beats the book, each year told from the others alone, of two
        # years or more.
        #
        # @param book [Numeric] the figure
        # @param seen [Array<Array(Integer, Float)>] year and value
        # @return [Hash] +book+, +own+, +low+, +high+, +seen+ and +years+ (how many), +book_error+ and +own_error+ (the
        #   mean, each year left out; nil under two years) and +used+
        def figure(book, seen, rulebook: Rulebook.shipped)
          weight = rulebook.value("reckoning.learn.weight")
          own = drawn(book, seen, weight)
          wide = WIDTH * spread(book, seen, own, rulebook) / Math.sqrt(seen.size + weight)
          errors = errors(book, seen, weight)
          { book: book.to_f, own: own, low: own - wide, high: own + wide, seen: seen.size,
            years: seen.map(&:first).uniq.size, book_error: errors&.first, own_error: errors&.last,
            used: !errors.nil? && errors.last < errors.first - Near::TOLERANCE }
        end

        def drawn(book, seen, weight) = (weight * book + seen.sum(&:last)) / (weight + seen.size).to_f

        # How far single sights lie from it, with the book's own doubt among them.
        def spread(book, seen, own, rulebook)
          doubt = book * rulebook.value("reckoning.learn.doubt")
          weight = rulebook.value("reckoning.learn.weight")
          Math.sqrt((seen.sum { |_, value| (value - own)**2 } + weight * doubt**2) / (seen.size + weight))
        end

        # @return [Array(Float, Float), nil] the book's mean error and that of what the other years tell
        def errors(book, seen, weight)
          years = seen.group_by(&:first)
          return nil if years.size < 2

          pairs = years.flat_map do |year, own|
            told = drawn(book, seen.reject { |other, _| other == year }, weight)
            own.map { |_, value| [(value - book).abs, (value - told).abs] }
          end
          pairs.transpose.map { |all| all.sum / all.size }
        end
        private_class_method :drawn, :spread, :errors
      end
    end
  end
end
