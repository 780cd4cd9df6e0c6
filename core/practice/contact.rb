# frozen_string_literal: true

module Vestry
  module Core
    module Practice
      # How much of a face's length the cambium of stick and stock lie on each other.
      module Contact
        extend Reckoning

        contract "contact", "How much of a face's length two cambium lines meet" do
          number :length_mm, unit: "mm", above: 0, most: 1000, help: "of the face"
          number :offset_mm, unit: "mm", least: -100, most: 100, help: "of one line beside the other, at the middle"
          number :tilt_deg, unit: "degrees", least: -80, most: 80, default: 0.0
          number :tolerance_mm, unit: "mm", least: 0, most: 20, default: 0.5, help: "so far apart they still knit"
        end

        # At y from the middle of the face the lines are |offset + y tan(tilt)| apart; they meet where that is at most
        # the tolerance. Set flush at the outer bark, the offset is the difference of the barks.
        #
        # @return [Hash] +contact_mm+, and +share+ of the length, 0..1
        def self.call(length_mm:, offset_mm:, tilt_deg: 0.0, tolerance_mm: 0.5, rulebook: nil)
          slope = Math.tan(tilt_deg.abs * Math::PI / 180)
          met = slope < Near::TOLERANCE ? even(length_mm, offset_mm, tolerance_mm) :
            crossing(length_mm / 2.0, offset_mm, tolerance_mm, slope)
          { contact_mm: met, share: met / length_mm }
        end

        def self.even(length, offset, tolerance) = Near.at_most?(offset.abs, tolerance) ? length.to_f : 0.0

        def self.crossing(half, offset, tolerance, slope)
          from, to = [(-tolerance - offset) / slope, (tolerance - offset) / slope]
          [[to, half].min - [from, -half].max, 0.0].max
        end
        private_class_method :even, :crossing
      end
    end
  end
end
