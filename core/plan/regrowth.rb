# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # How a graft grows back into the limb it was set on.
      module Regrowth
        extend Reckoning

        # Thicknesses that were counted of a graft: ends of seasons, the grafting season 0.
        READINGS = proc do
          integer :season, least: 0, most: 200, help: "since it was grafted; 0 is the grafting season"
          number :mm, unit: "mm", above: 0, help: "above its union; of several sticks, as one of their section"
        end

        contract "regrowth", "How a graft grows back into its limb, season by season" do
          number :stub_mm, unit: "mm", above: 0, help: "diameter of the limb where it was cut"
          number :shoot_mm, unit: "mm", least: 0, help: "of its first year"
          number :ring_mm, unit: "mm", least: 0, most: 100, optional: true,
                           help: "a year's wood, on each side; else the rulebook's"
          integer :seasons, above: 0, most: 200, default: 10
          list :measured, longest: 200, default: [].freeze, help: "what was counted of it", &READINGS
        end

        # A first-year shoot is 2.5 mm + 0.0095 of its length thick at its foot, and a ring is added on each side every
        # season after. Its share of the limb is (d / stub)^2, for leaf goes with the section of wood. What was measured
        # stands in place of that: straight from one reading to the next, and on from the last by the ring of the last
        # two.
        #
        # @return [Hash] +diameters_mm+ and +shares+ (0..1) at the end of each season, the grafting season first
        def self.call(stub_mm:, shoot_mm:, ring_mm: nil, seasons: 10, measured: [], rulebook: Rulebook.shipped)
          foot = foot(shoot_mm, rulebook)
          ring = ring_mm || rulebook.value("reckoning.regrowth.ring")
          seen = measured.sort_by { |each| each[:season] }
          diameters = Array.new(seasons) { |season| by_readings(season, seen, ring) || foot + 2 * ring * season }
          { diameters_mm: diameters, shares: diameters.map { |mm| share(mm, stub_mm) } }
        end

        # @return [Float] mm, of a shoot of the first year
        def self.foot(shoot_mm, rulebook)
          rulebook.value("reckoning.union.thinnest") + rulebook.value("reckoning.union.thickens") * shoot_mm
        end

        # What of a limb's section a graft of a thickness is.
        #
        # @return [Float] 0..1
        def self.share(diameter_mm, stub_mm) = [1.0, (diameter_mm / stub_mm)**2].min

        # How thick it is at an age, and what that is of its limb.
        #
        # @param limb [Hash] as the contract takes it, without +seasons+
        # @param age [Integer] seasons since it was grafted; nothing has grown before 0
        # @return [Hash] +diameter_mm+ and +share+
        def self.at(age, limb, rulebook:)
          return { diameter_mm: 0.0, share: 0.0 } if age.negative?

          told = call(**limb, seasons: age + 1, rulebook: rulebook)
          { diameter_mm: told[:diameters_mm].last, share: told[:shares].last }
        end

        # A year's wood on each side, by the last two readings; nil where there are no two, or where it lost wood
        # between them, as one does whose sticks were thinned.
        #
        # @param measured [Array<Hash>] +season+ and +mm+, in order
        # @return [Float, nil] mm
        def self.ring(measured)
          before, last = measured.last(2)
          return unless last && last[:season] > before[:season] && last[:mm] > before[:mm]

          (last[:mm] - before[:mm]) / (last[:season] - before[:season]) / 2.0
        end

        # By the readings about a season; nil before the first.
        def self.by_readings(season, seen, ring)
          before = seen.reverse.find { |each| each[:season] <= season } or return
          after = seen.find { |each| each[:season] > season }
          ring = after ? (after[:mm] - before[:mm]) / (after[:season] - before[:season]) / 2.0 : ring(seen) || ring
          before[:mm] + 2 * ring * (season - before[:season])
        end
        private_class_method :by_readings
      end
    end
  end
end
