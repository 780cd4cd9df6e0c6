# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # The last sensible day for a stub, and what decides it.
      module Window
        extend Reckoning

        contract "window", "The last sensible day for a stub, and what decides it" do
          name :species, -> { Rulebook.shipped.species_names }
          date :opens_on
          date :bark_closes_on, optional: true
          date :heat_on, optional: true, help: "when heat begins to count against the union"
          date :wood_ends_on, optional: true, help: "when the stored wood gives out"
          date :first_frost_on, help: "of the autumn"
          number :harden_weeks, unit: "weeks", least: 0, default: 14.0, help: "a new shoot needs to ripen"
        end

        # The earliest of those given, and of the first frost less the weeks a shoot needs to harden.
        # What stands first in the contract decides between equals.
        #
        # @return [Hash] +opens_on+, +closes_on+, +decided_by+ (a field's name, or "hardening") and +open+
        def self.call(species:, opens_on:, first_frost_on:, bark_closes_on: nil, heat_on: nil, wood_ends_on: nil,
                      harden_weeks: 14.0, rulebook: nil)
          ends = { "bark_closes_on" => bark_closes_on, "heat_on" => heat_on, "wood_ends_on" => wood_ends_on,
                   "hardening" => first_frost_on - Near.ceil(harden_weeks * 7) }.compact
          decided_by, closes_on = ends.min_by.with_index { |(_, date), place| [date, place] }
          { opens_on: opens_on, closes_on: closes_on, decided_by: decided_by, open: closes_on >= opens_on, ends: ends,
            reasons: [{ code: "window_#{decided_by}", on: closes_on, species: species }] }
        end
      end
    end
  end
end
