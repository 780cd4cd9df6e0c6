# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # The cross-section of a limb from what a tape or a caliper says.
      module Section
        extend Reckoning

        contract "section", "Diameter, girth, wood and area of a limb from a tape or a caliper" do
          number :girth_mm, unit: "mm", above: 0, optional: true, help: "tape round the limb"
          number :diameter_mm, unit: "mm", above: 0, optional: true, help: "caliper across a round limb"
          list :diameters_mm, item(:number, unit: "mm", above: 0), size: 2, optional: true,
              help: "widest and narrowest across an oval limb"
          number :bark_mm, unit: "mm", least: 0, default: 0.0, help: "thickness of the bark"
          one_of :girth_mm, :diameter_mm, :diameters_mm
        end

        # Round: d = girth / pi. Oval: the round limb of equal area, with the perimeter by
        # Ramanujan's second approximation (Modular equations and approximations to pi, 1914).
        #
        # @param girth_mm [Float, nil] mm, above 0
        # @param diameter_mm [Float, nil] mm, above 0
        # @param diameters_mm [Array(Float, Float), nil] mm, above 0
        # @param bark_mm [Float] mm, from 0 and less than the radius
        # @return [Hash] +diameter_mm+, +girth_mm+, +wood_diameter_mm+ in mm, +area_mm2+ in mm2, bark included
        # @raise [BadInput] when the bark leaves no wood
        def self.call(girth_mm: nil, diameter_mm: nil, diameters_mm: nil, bark_mm: 0.0, rulebook: nil)
          diameter, girth = measure(girth_mm, diameter_mm, diameters_mm)
          most = bark_below(diameter, bark_mm)
          raise BadInput.new(:bark_mm, "a number in mm below #{most}, half the diameter") if most

          { diameter_mm: diameter, girth_mm: girth, wood_diameter_mm: diameter - 2 * bark_mm,
            area_mm2: Math::PI * diameter**2 / 4 }
        end

        # Whether bark leaves no wood in a limb.
        #
        # @param limb [Hash] +bark_mm+, and +girth_mm+ or +wide_mm+ and +narrow_mm+, in mm; any may be missing
        # @return [Float, nil] mm that its bark must be thinner than, where it is not
        def self.too_much_bark(limb)
          girth, wide, narrow, bark = limb.values_at(:girth_mm, :wide_mm, :narrow_mm, :bark_mm).map { |mm| mm&.to_f }
          return nil unless bark && (girth || (wide && narrow))

          bark_below(measure(girth, nil, [wide, narrow]).first, bark)
        end

        def self.bark_below(diameter, bark)
          (diameter / 2).floor(1) unless (diameter - 2 * bark).positive?
        end
        private_class_method :bark_below

        def self.measure(girth, diameter, diameters)
          return [girth / Math::PI, girth] if girth
          return [diameter, Math::PI * diameter] if diameter

          [Math.sqrt(diameters[0] * diameters[1]), oval_girth(*diameters)]
        end
        private_class_method :measure

        def self.oval_girth(wide, narrow)
          h = ((wide - narrow) / (wide + narrow))**2
          Math::PI / 2 * (wide + narrow) * (1 + 3 * h / (10 + Math.sqrt(4 - 3 * h)))
        end
        private_class_method :oval_girth
      end
    end
  end
end
