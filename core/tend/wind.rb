# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # How long a shoot may grow unbraced before a gust can tear it out at the union.
      module Wind
        extend Reckoning

        contract "wind", "How long a shoot may grow unbraced before a gust tears it out" do
          number :weeks, unit: "weeks", least: 0, help: "since the graft"
          number :base_diameter_mm, unit: "mm", above: 0, help: "of the shoot at the union"
          number :gust_ms, unit: "m/s", above: 0, help: "the strongest to be reckoned with here"
          number :leaf_width_mm, unit: "mm", above: 0, default: 70.0, help: "of the leafy shoot across the wind"
          number :hold, above: 0, most: 1, default: 1.0, help: "share of the joint that is grown together"
        end

        # strength = 40 (1 - e^(-weeks/60)) x hold; the joint resists strength pi d^3 / 32. A shoot of
        # length L takes 1/2 rho Cd w v^2 L^2 / 2 (a leafy strip in even wind: rho 1.2, Cd 0.35); it is
        # safe where the resistance over 1.5 equals that.
        #
        # @return [Hash] +strength_mpa+ (MPa), +resisting_nm+ (N m), +safe_length_mm+ (mm)
        def self.call(weeks:, base_diameter_mm:, gust_ms:, leaf_width_mm: 70.0, hold: 1.0, rulebook: Rulebook.shipped)
          strength = Union.strength(weeks, hold, rulebook)
          resisting = Union.resisting(strength, base_diameter_mm)
          pressure = rulebook.value("reckoning.union.air") * rulebook.value("reckoning.union.drag") * leaf_width_mm / 1000 * gust_ms**2 / 4
          { strength_mpa: strength, resisting_nm: resisting, safe_length_mm: Math.sqrt(resisting / rulebook.value("reckoning.union.wind_safety") / pressure) * 1000 }
        end
      end
    end
  end
end
