# frozen_string_literal: true

module Vestry
  module Core
    module Graft
      # How a stick is shaved for a flap graft, and whether the stock's flaps cover its faces.
      module Flaps
        extend Reckoning

        contract "flaps", "How deep to shave a stick for a flap graft, and whether the flaps cover it" do
          integer :flaps, least: 2, most: 8, help: "three or four"
          number :scion_mm, unit: "mm", above: 0
          number :stock_wood_mm, unit: "mm", above: 0, help: "diameter of the stock's wood, bark peeled"
          number :strip_mm, unit: "mm", least: 0, default: 1.5, help: "of bark left between faces"
          number :bark_mm, unit: "mm", least: 0, default: 1.0, help: "thickness of the stick's bark"
        end

        # arc = pi scion / flaps - strip; half-angle a = arc / scion; depth = scion / 2 (1 - cos a);
        # flat = scion sin a; flap = pi stock / flaps; covered = min(1, flap / flat); overlap = how much
        # wider a flap is than its share of the stick's girth.
        #
        # @return [Hash] +depth_mm+, +flat_mm+, +flap_mm+, +covered_share+, +overlap_mm+, +reaches_wood+, +reasons+;
        #   +feasible+ is false when the strips leave no face
        def self.call(flaps:, scion_mm:, stock_wood_mm:, strip_mm: 1.5, bark_mm: 1.0, rulebook: nil)
          arc = Math::PI * scion_mm / flaps - strip_mm
          flap = Math::PI * stock_wood_mm / flaps
          return nothing(flap, strip_mm, scion_mm) unless arc > Near::TOLERANCE

          angle = arc / scion_mm
          depth = scion_mm / 2 * (1 - Math.cos(angle))
          flat = scion_mm * Math.sin(angle)
          covered = [1.0, flap / flat].min
          overlap = [0.0, flap - Math::PI * scion_mm / flaps].max
          { feasible: true, depth_mm: depth, flat_mm: flat, flap_mm: flap, covered_share: covered, overlap_mm: overlap,
            reaches_wood: depth > bark_mm,
            reasons: reasons(covered, depth > bark_mm, depth) }
        end

        # Faces that are covered by so much knit; flaps that overlap do no harm.
        ENOUGH = 0.9
        private_constant :ENOUGH

        def self.nothing(flap, strip, scion)
          { feasible: false, depth_mm: nil, flat_mm: nil, flap_mm: flap, covered_share: nil, overlap_mm: nil,
            reaches_wood: false, reasons: [{ code: "flaps_no_face", strip_mm: strip, scion_mm: scion }] }
        end

        def self.reasons(covered, wood, depth)
          found = []
          found << { code: "flaps_bare", covered: covered } if covered < ENOUGH - Near::TOLERANCE
          found << { code: "flaps_not_wood", depth_mm: depth } unless wood
          found
        end
        private_class_method :nothing, :reasons
      end
    end
  end
end
