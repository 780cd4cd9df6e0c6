# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # How well a stick's face lies against a stub that is not round.
      module Seating
        extend Reckoning
        STEP = 10
        private_constant :STEP

        contract "seating", "How well a stick's face lies against a stub that is not round" do
          list :radii_mm, item(:number, unit: "mm", above: 0, most: 2000), size: 36,
               help: "of the stub, from bearing 0 in steps of ten degrees"
          number :bearing_deg, unit: "degrees", least: 0, below: 360, help: "where the stick is set"
          number :width_mm, unit: "mm", least: 0, most: 500, help: "of the stick's face"
        end

        # The outline's points at whole degrees, radii between linear in bearing. Of those that lie within half the
        # width of the axis along the bearing, on its outer side, the gap is the furthest out less the least: the
        # flatter the place, the smaller.
        #
        # @return [Hash] +gap_mm+
        def self.call(radii_mm:, bearing_deg:, width_mm:, rulebook: nil)
          out = degrees(radii_mm, bearing_deg, width_mm / 2.0).filter_map do |degree|
            aside, ahead = from_axis(radius(radii_mm, degree % 360), degree - bearing_deg)
            ahead if ahead.positive? && Near.at_most?(aside, width_mm / 2.0)
          end
          { gap_mm: out.empty? ? 0.0 : out.max - out.min }
        end

        def self.degrees(radii, bearing, half)
          reach = reach(radii.min, half)
          (bearing - reach).ceil..(bearing + reach).floor
        end

        def self.from_axis(radius, turn_deg)
          turn = turn_deg * Math::PI / 180
          [(radius * Math.sin(turn)).abs, radius * Math.cos(turn)]
        end

        # How far to either side points can lie within half the width, in degrees: none nearer than the least radius.
        def self.reach(least, half)
          least > half ? Math.asin(half / least) * 180 / Math::PI + Near::TOLERANCE : 90
        end

        def self.radius(radii, degree)
          from, past = degree.divmod(STEP)
          radii[from] + (radii[(from + 1) % radii.size] - radii[from]) * past / STEP.to_f
        end
        private_class_method :degrees, :from_axis, :reach, :radius
      end
    end
  end
end
