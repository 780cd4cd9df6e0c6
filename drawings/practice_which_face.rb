# frozen_string_literal: true

module Vestry
  module Drawings
    # A stub end-on as it is, not round, with sticks that are pulled along its rim.
    class PracticeWhichFace
      SIZE, REACH = 480, 190.0
      private_constant :SIZE, :REACH

      # @param exercise [Hash] as Core::Practice::WhichFace shows it
      # @param bearings_deg [Array<Float>]
      # @param result [Hash, nil] what that came to
      def initialize(exercise, bearings_deg: nil, result: nil)
        @exercise = exercise
        @bearings = bearings_deg || Array.new(exercise[:sticks]) { |i| i * 80.0 + 40 }
        @result = result
      end

      def svg = Template.render("practice_which_face", self)
      def judged? = !@result.nil?
      def size = SIZE
      def scale = REACH / radii.max
      def radii = @exercise[:radii_mm]
      def wind = @exercise[:wind_from_deg]
      def wide = @exercise[:width_mm] * scale

      def outline = "#{Stroke.straight((0...360).step(2).map { |at| on_rim(at) })}Z"
      def sticks = @bearings.map { |at| { at: at, far: radius(at) * scale } }
      def best = judged? ? @result[:best][:bearings_deg].map { |at| { at: at, far: radius(at) * scale } } : []
      # Where the sticks' numbers stand, within the rim.
      def numbers
        @bearings.map { |at| on_rim(at).map { |each| (each - SIZE / 2) * 0.82 } }
      end

      def spoken = "A stub end-on, and #{@bearings.size} #{@bearings.size == 1 ? 'stick' : 'sticks'} on its rim."

      private

      # Radii between are linear in bearing, as the reckoning has them.
      def radius(at)
        from, past = (at % 360).divmod(10)
        radii[from] + (radii[(from + 1) % 36] - radii[from]) * past / 10.0
      end

      # 0 is up, and it goes round as a clock does.
      def on_rim(at)
        way = at * Math::PI / 180
        [SIZE / 2 + radius(at) * scale * Math.sin(way), SIZE / 2 - radius(at) * scale * Math.cos(way)]
      end
    end
  end
end
