# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # How much of a winter buds have slept through.
      module Chill
        extend Reckoning

        # The dynamic model's constants as published by its authors (Fishman, Erez and Couvillon 1987), in kelvin.
        E0, E1, A0, A1, SLOPE, FROM = 4153.5, 12_888.8, 139_500.0, 2.567e18, 1.6, 277.0
        KELVIN = 273.0
        private_constant :E0, :E1, :A0, :A1, :SLOPE, :FROM, :KELVIN

        contract "chill", "How much of a winter buds have slept through, in chill portions" do
          weather :days, help: "from the fall of the leaves, in order"
        end

        # By the hour, with temperatures as callus takes them: an interim product that warmth undoes gathers until there
        # is enough of it for a portion, of which a share that hangs on the temperature is banked for good.
        #
        # @return [Hash] +portions+; +daily+, what was banked by the end of each day
        def self.call(days:, rulebook: nil)
          interim = banked = 0.0
          daily = days.map do |day|
            Callus.hours(day).each do |celsius|
              interim, more = step(interim, celsius + KELVIN)
              banked += more
            end
            banked
          end
          { portions: banked, daily: daily }
        end

        # One hour: what there is of the interim product after it, and what was banked.
        def self.step(interim, kelvin)
          interim = gathered(interim, kelvin)
          return [interim, 0.0] if interim < 1

          share = banked(kelvin)
          [interim * (1 - share), interim * share]
        end

        def self.gathered(interim, kelvin)
          limit = A0 / A1 * Math.exp((E1 - E0) / kelvin)
          limit - (limit - interim) * Math.exp(-A1 * Math.exp(-E1 / kelvin))
        end

        # xi = sr / (1 + sr) with sr = e^ftmprt, written so that no power of e runs out of numbers.
        def self.banked(kelvin) = 1 / (1 + Math.exp(-SLOPE * FROM * (kelvin - FROM) / kelvin))
        private_class_method :step, :gathered, :banked
      end
    end
  end
end
