# frozen_string_literal: true

module Vestry
  module Drawings
    # What drawings of a stub's end share: where its flat face lies, and places round its rim.
    module StubFace
      private

      # On an upright stub its bearing; on a leaning one degrees from the upper side, as seen from its cut end.
      def flat_at
        flat = @limb.flat_deg&.to_f
        return flat if flat.nil? || @upright

        @limb.bearing_deg && Core::Plan::Sticks.clock(flat, @limb.bearing_deg.to_f, @limb.rise_deg.to_f)
      end

      def around(deg, radius)
        Core::Survey::Figure.radians(deg).then { |r| [middle + Math.sin(r) * radius, middle - Math.cos(r) * radius] }
      end
    end
  end
end
