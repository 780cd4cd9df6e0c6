# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # How long a shoot may grow unbraced before a gust can tear it out at the union.
      module Wind
        extend Reckoning

        contract "wind", "How long a shoot may grow unbraced before a gust tears it out" do
          number :weeks, unit: "weeks", least: 0, help: "since the graft"
          number :base_diameter_mm, unit: "mm", above: 0, optional: true,
                                    help: "of the shoot at the union; unmeasured, it is taken from its length"
          number :length_mm, unit: "mm", least: 0, optional: true,
                             help: "of the shoot; wanted where its foot was not measured"
          number :gust_ms, unit: "m/s", least: 0.1, help: "the strongest to be reckoned with here"
          number :leaf_width_mm, unit: "mm", least: 1, default: 70.0, help: "of the leafy shoot across the wind"
          number :hold, above: 0, most: 1, default: 1.0, help: "share of the joint that is grown together"
          integer :shoots, above: 0, most: 12, default: 1, help: "alike, on the same stick"
          number :stick_mm, unit: "mm", least: 0, default: 0.0, help: "how far the stick stands out above the union"
        end

        # strength = 40 (1 - e^(-weeks/60)) x hold; the joint resists strength pi d^3 / 32. A shoot of
        # length L takes 1/2 rho Cd w v^2 L (L/2 + s) on a stick that stands s above the union (a leafy strip
        # in even wind: rho 1.2, Cd 0.35), and n alike take n times that; they are safe where the resistance
        # over 1.5 equals it: L = -s + sqrt(s^2 + 2 K), K = resisting / (1.5 n 1/2 rho Cd w v^2).
        # A foot that was not measured is 2.5 mm + 0.0095 of the length, up to 600 mm of it.
        #
        # @return [Hash] +strength_mpa+ (MPa), +resisting_nm+ (N m), +safe_length_mm+ (mm), +base_diameter_mm+
        # @raise [BadInput] when neither the foot nor the length is given
        def self.call(weeks:, gust_ms:, base_diameter_mm: nil, length_mm: nil, leaf_width_mm: 70.0, hold: 1.0,
                      shoots: 1, stick_mm: 0.0, rulebook: Rulebook.shipped)
          unless base_diameter_mm || length_mm
            raise BadInput.new("base_diameter_mm", "is missing; give it, or length_mm")
          end

          base = base_diameter_mm || Union.foot(length_mm, rulebook)
          strength = Union.strength(weeks, hold, rulebook)
          resisting = Union.resisting(strength, base)
          pressure = rulebook.value("reckoning.union.air") * rulebook
            .value("reckoning.union.drag") * leaf_width_mm / 1000 * gust_ms**2 / 2
          reach = resisting / (rulebook.value("reckoning.union.wind_safety") * shoots * pressure)
          stick = stick_mm / 1000
          { strength_mpa: strength, resisting_nm: resisting,
            safe_length_mm: (Math.sqrt(stick**2 + 2 * reach) - stick) * 1000, base_diameter_mm: base }
        end
      end
    end
  end
end
