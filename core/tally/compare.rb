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
          used = strata.select { |each| each[:n1].positive? && each[:n0].positive? }
          return { difference: nil, sd: nil, low: nil, high: nil, chi2: nil, strata_used: 0 } if used.empty?

          weight = used.sum { |each| each[:n1] * each[:n0] / all(each) }
          difference = used.sum { |each| (each[:a] * each[:n0] - each[:c] * each[:n1]) / all(each) } / weight
          sd = Math.sqrt([variance(used, difference, weight), 0.0].max)
          { difference: difference, sd: sd, low: difference - WIDTH * sd, high: difference + WIDTH * sd,
            chi2: chi2(used), strata_used: used.size }
        end

        def self.all(stratum) = (stratum[:n1] + stratum[:n0]).to_f

        def self.variance(used, difference, weight)
          p = used.sum do |each|
            a, n1, c, n0 = each.values_at(:a, :n1, :c, :n0)
            (n1**2 * c - n0**2 * a + n1 * n0 * (n0 - n1) / 2.0) / all(each)**2
          end
          q = used.sum do |each|
            a, n1, c, n0 = each.values_at(:a, :n1, :c, :n0)
            (a * (n0 - c) + c * (n1 - a)) / (2 * all(each))
          end
          (difference * p + q) / weight**2
        end

        def self.chi2(used)
          expected = used.sum { |each| each[:n1] * (each[:a] + each[:c]) / all(each) }
          spread = used.sum do |each|
            took, all = each[:a] + each[:c], all(each)
            all > 1 ? each[:n1] * each[:n0] * took * (all - took) / (all**2 * (all - 1)) : 0.0
          end
          spread.positive? ? (used.sum { |each| each[:a] } - expected)**2 / spread : 0.0
        end
        private_class_method :all, :variance, :chi2
      end
    end
  end
end
