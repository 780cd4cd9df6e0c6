# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # When wood in store is spent: too little of its life is left to be worth a stub.
      module Spent
        module_function

        # At the pace at which it has aged, and no slower than in an ordinary store.
        #
        # @param left [Float] the share of its life that is left
        # @param since [Date] from when on it has aged
        # @return [Date] today or later
        def on(left, since, today, rulebook)
          worth = left - rulebook.value("reckoning.slip.spent_at")
          days = [(today - since).to_i, 1].max
          pace = [(1 - left) / days, 1.0 / rulebook.value("reckoning.storage.life_days")].max
          today + [(worth / pace).floor, 0].max
        end

        # Where no thermometer tells: as if it had lain just above freezing all along.
        #
        # @return [Date]
        def unmeasured_on(species, cut_on, rulebook)
          cut_on + days_worth(species, rulebook)
        end

        # The first day on which wood can be cut that is not spent by another; in its last days asleep, if not even
        # they suffice.
        #
        # @param asleep [Range<Date>] the days on which it can be cut at all
        # @return [Date] one of those
        def cut_from(species, until_on, asleep, rulebook)
          late = asleep.end - rulebook.value("reckoning.wood.cutting_days")
          [[until_on - days_worth(species, rulebook), late].min, asleep.begin].max
        end

        # The day after which such wood no longer lives at all.
        #
        # @return [Date]
        def keeps_until(species, cut_on, rulebook) = cut_on + life_of(species, rulebook).floor

        def days_worth(species, rulebook)
          (life_of(species, rulebook) * (1 - rulebook.value("reckoning.slip.spent_at"))).floor
        end
        private_class_method :days_worth

        # In days just above freezing.
        def life_of(species, rulebook)
          rulebook.value_or_nil("species.#{species}.wood_life") || rulebook.value("reckoning.storage.life_days")
        end
      end
    end
  end
end
