# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # The last sensible day for a stub, and what decides it.
      module Window
        extend Reckoning

        KINDS = %w[slip no-slip bud].freeze

        # What kind a method is.
        #
        # @return [String] one of KINDS
        def self.kind(method, rulebook)
          return "bud" if rulebook.method_fact(method, "kin") == "bud"

          rulebook.value("methods.#{method}.needs_slip") ? "slip" : "no-slip"
        end

        contract "window", "The last sensible day for a stub, and what decides it" do
          name :species, -> { Rulebook.shipped.species_names }
          date :opens_on
          date :bark_closes_on, optional: true
          date :heat_on, optional: true, help: "when heat begins to count against the union"
          date :wood_ends_on, optional: true, help: "when the stored wood gives out"
          date :first_frost_on, help: "of the autumn"
          number :harden_weeks, unit: "weeks", least: 0, optional: true,
                                help: "a new shoot needs to ripen; else by the kind of graft"
          name :kind, KINDS, default: "slip", help: "whether it needs bark that slips, or is a bud"
        end

        # The earliest of those given, and of the first frost less the weeks a shoot, or a bud, needs to harden. Bark
        # does not count for a method that needs none, nor heat for a bud. What stands first in the contract decides
        # between equals.
        #
        # @return [Hash] +opens_on+, +closes_on+, +decided_by+ (a field's name, or "hardening") and +open+
        def self.call(species:, opens_on:, first_frost_on:, bark_closes_on: nil, heat_on: nil, wood_ends_on: nil,
                      harden_weeks: nil, kind: "slip", rulebook: Rulebook.shipped)
          weeks = harden_weeks || rulebook.value("reckoning.slip.#{kind == 'bud' ? 'bud_weeks' : 'harden_weeks'}")
          ends = { "bark_closes_on" => (bark_closes_on unless kind == "no-slip"),
                   "heat_on" => (heat_on unless kind == "bud"), "wood_ends_on" => wood_ends_on,
                   "hardening" => first_frost_on - Near.ceil(weeks * 7) }.compact
          decided_by, closes_on = ends.min_by.with_index { |(_, date), place| [date, place] }
          { opens_on: opens_on, closes_on: closes_on, decided_by: decided_by, open: closes_on >= opens_on, ends: ends,
            reasons: [{ code: "window_#{decided_by}", on: closes_on, species: species }] }
        end
      end
    end
  end
end
