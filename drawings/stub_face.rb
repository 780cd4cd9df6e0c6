# frozen_string_literal: true

module Vestry
  module Drawings
    # What drawings of a stub's end share: where its flat face lies, and places round its rim.
    module StubFace
      # Where the wood is split, from one stick to the other side.
      def split
        return unless kin == "cleft"

        @faces.map { |deg| Stroke.straight([around(deg, wood_radius), around(deg + 180, wood_radius)]) }.join
      end

      # How far a stick's middle lies from the stub's: so much of the wood's radius and so much of its own. Under bark
      # it lies outside the wood; in a split, and on a stub of its own thickness, cambium lies on cambium; flaps stand
      # round it.
      SEATS = { "flap" => [0, 0], "cleft" => [1, -0.85], "whip" => [1, -0.85] }.freeze
      UNDER_BARK = [1, 0.25].freeze
      private_constant :SEATS, :UNDER_BARK

      def seats = SEATS.fetch(kin, UNDER_BARK)

      private

      # On an upright stub its bearing; on a leaning one degrees from the upper side, as seen from its cut end.
      def flat_at
        flat = @limb.flat_deg&.to_f
        return flat if flat.nil? || @upright

        @limb.bearing_deg && Core::Plan::Sticks.clock(flat, @limb.bearing_deg.to_f, @limb.rise_deg.to_f)
      end

      def kin = @technique && @orchard.rulebook.method_fact(@technique, "kin")
      def seat(wood, disc) = [wood * seats[0] + disc * seats[1], 0.0].max

      # Whether the stick is about as thick as the stub it is set on.
      def as_thick? = %w[flap whip].include?(kin)

      # How thick a stick is drawn of which that is not known: so that a stub of its own thickness is seen behind it.
      def usual_mm(stub_mm) = as_thick? ? stub_mm * 0.9 : @orchard.rulebook.value("reckoning.wood.pencil").to_f

      def around(deg, radius)
        Core::Survey::Figure.radians(deg).then { |r| [middle + Math.sin(r) * radius, middle - Math.cos(r) * radius] }
      end
    end
  end
end
