# frozen_string_literal: true

module Vestry
  module Core
    module Tally
      # How often grafts take, and how sure that is.
      module Take
        extend Reckoning

        Z = 1.959963984540054

        contract "take", "How often grafts take, and how sure that is" do
          integer :takes, least: 0
          integer :trials, least: 0
          number :prior_mean, least: 0, most: 1, default: 0.7, help: "expected before anything was counted"
          number :prior_strength, least: 0, default: 8.0, help: "how many trials that is worth"
        end

        # Wilson's interval of 95 % (Wilson 1927); expected = (takes + strength x mean) / (trials +
        # strength). Without trials there is no rate, and the interval says nothing.
        #
        # @return [Hash] +rate+ (nil without trials), +low+, +high+, +expected+: shares 0..1
        # @raise [BadInput] for more takes than trials, or nothing to expect from
        def self.call(takes:, trials:, prior_mean: 0.7, prior_strength: 8.0, rulebook: nil)
          raise BadInput.new("takes", "a whole number from 0 up to trials, #{trials}") if takes > trials
          return { rate: nil, low: 0.0, high: 1.0, expected: prior_mean } if trials.zero?

          rate = takes / trials.to_f
          share = 1 + Z**2 / trials
          middle = (rate + Z**2 / (2 * trials)) / share
          half = Z / share * Math.sqrt(rate * (1 - rate) / trials + Z**2 / (4.0 * trials**2))
          { rate: rate, low: [middle - half, 0.0].max, high: [middle + half, 1.0].min,
            expected: (takes + prior_strength * prior_mean) / (trials + prior_strength) }
        end

        # The chance that a single stick takes, drawn from what is expected of it towards what stubs did: a
        # stub takes when one of its sticks does, so that 1 - stub = (1 - stick)^sticks.
        #
        # @param first [Float] the chance expected before anything was counted, 0..1
        # @param sticks [Float] on a stub, on average, above 0
        # @return [Float] 0..1
        def self.of_stick(first, takes:, trials:, sticks:, rulebook: Rulebook.shipped)
          return first if trials.zero?

          stub = call(takes: takes, trials: trials, prior_mean: 1 - (1 - first)**sticks,
                      prior_strength: rulebook.value("reckoning.take.prior_strength"))[:expected]
          1 - (1 - stub)**(1 / sticks.to_f)
        end
      end
    end
  end
end
