# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # Whether one kind of graft took more often than the others, like compared with like.
      module Compare
        extend Reckoning

        # Half the width of a 95 % interval in standard deviations.
        WIDTH = 1.959963984540054

        contract "compare", "Whether one kind took more often than the others, like with like" do
          list :strata, help: "each of one kind of stock, method and year" do
            integer :a, least: 0, help: "took here"
            integer :n1, least: 0, help: "known here"
            integer :c, least: 0, help: "took among the others"
            integer :n0, least: 0, help: "known among the others"
            rising :a, :n1
            rising :c, :n0
          end
        end

        # The risk difference of Mantel and Haenszel (1959) with Sato's variance (1989), and the statistic of Cochran,
        # Mantel and Haenszel without correction. Strata with nobody on one side say nothing and are left out.
        #
        # @return [Hash] +difference+, +sd+, +low+, +high+ (95 %), +chi2+ and +strata_used+; all but the last nil where
        #   no stratum says anything
        def self.call(strata:, rulebook: nil)
          used = telling(strata)
          return { difference: nil, sd: nil, low: nil, high: nil, chi2: nil, strata_used: 0 } if used.empty?

          difference, sd = difference(used)
          { difference: difference, sd: sd, low: difference - WIDTH * sd, high: difference + WIDTH * sd,
            chi2: chi2(used), strata_used: used.size }
        end

        # The strata that say something.
        def self.telling(strata)
          strata.select { |each| each[:n1].positive? && each[:n0].positive? }
            .map { |each| Stratum.new(*each.values_at(:a, :n1, :c, :n0)) }
        end

        # The difference and its standard deviation.
        def self.difference(used)
          weight = used.sum(&:weight)
          difference = used.sum(&:excess) / weight
          [difference, Math.sqrt([(difference * used.sum(&:p) + used.sum(&:q)) / weight**2, 0.0].max)]
        end

        # One stratum: a of n1 took here, and c of n0 of the others.
        class Stratum
          # @return [Integer] those that took here
          attr_reader :a

          def initialize(a, n1, c, n0)
            @a = a
            @n1 = n1
            @c = c
            @n0 = n0
            @all = (n1 + n0).to_f
          end

          # What it weighs in the difference.
          def weight = @n1 * @n0 / @all
          # How many more took here than would have, were all alike.
          def excess = (@a * @n0 - @c * @n1) / @all
          # The two parts of Sato's variance.
          def p = (@n1**2 * @c - @n0**2 * @a + @n1 * @n0 * (@n0 - @n1) / 2.0) / @all**2
          # The part that does not hang on the difference.
          def q = (@a * (@n0 - @c) + @c * (@n1 - @a)) / (2 * @all)
          # How many would have taken here, were all alike, and how far that spreads.
          def expected = @n1 * (@a + @c) / @all
          # Its variance.
          def spread
            @all > 1 ? @n1 * @n0 * (@a + @c) * (@all - @a - @c) / (@all**2 * (@all - 1)) : 0.0
          end
        end
        private_constant :Stratum

        def self.chi2(used)
          spread = used.sum(&:spread)
          spread.positive? ? (used.sum(&:a) - used.sum(&:expected))**2 / spread : 0.0
        end
        private_class_method :telling, :difference, :chi2
      end
    end
  end
end
