# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How a graft grows back into the limb it was set on.
      module Regrowth
        extend Reckoning

        contract "regrowth", "How a graft grows back into its limb, season by season" do
          number :stub_mm, unit: "mm", above: 0, help: "diameter of the limb where it was cut"
          number :shoot_mm, unit: "mm", least: 0, help: "of its first year"
          number :ring_mm, unit: "mm", least: 0, most: 100, default: 6.0, help: "a year's wood, on each side"
          integer :seasons, above: 0, most: 200, default: 10
        end

        # A first-year shoot is 2.5 mm + 0.0095 of its length thick at its foot, and a ring is added on each side every
        # season after. Its share of the limb is (d / stub)^2, for leaf goes with the section of wood.
        #
        # @return [Hash] +diameters_mm+ and +shares+ (0..1) at the end of each season, the grafting season first
        def self.call(stub_mm:, shoot_mm:, ring_mm: 6.0, seasons: 10, rulebook: Rulebook.shipped)
          foot = foot(shoot_mm, rulebook)
          diameters = Array.new(seasons) { |season| foot + 2 * ring_mm * season }
          { diameters_mm: diameters, shares: diameters.map { |mm| [1.0, (mm / stub_mm)**2].min } }
        end

        # @return [Float] mm, of a shoot of the first year
        def self.foot(shoot_mm, rulebook)
          rulebook.value("reckoning.union.thinnest") + rulebook.value("reckoning.union.thickens") * shoot_mm
        end
      end
    end
  end
end
