# frozen_string_literal: true

module Vestry
  module Drawings
    # A stick and a blade from above, and the hand that holds, pulled to its place.
    class PracticeHands
      SIZE, SCALE = 560, 1.0
      private_constant :SIZE, :SCALE

      # @param exercise [Hash] as Core::Practice::Hands shows it
      # @param x_mm [Float] of the hand, and +y_mm+
      # @param result [Hash, nil] what that came to
      def initialize(exercise, x_mm: 150.0, y_mm: 150.0, result: nil)
        @exercise = exercise
        @x, @y = x_mm, y_mm
        @result = result
      end

      attr_reader :exercise

      def svg = Template.render("practice_hands", self)
      def judged? = !@result.nil?
      def size = SIZE
      def hand = [@x * SCALE, -@y * SCALE]
      def best = judged? ? @result[:best].values_at(:x_mm, :y_mm).then { |x, y| [x * SCALE, -y * SCALE] } : nil

      # What the blade may sweep when it slips.
      def sweep
        far, turn = exercise[:slip_mm] * SCALE, exercise[:sweep_deg]
        (x1, y1), (x2, y2) = [-turn, turn].map { |off| out(exercise[:blade_deg] + off, far) }
        r = Stroke.method(:round)
        "M0 0L#{r[x1]} #{r[y1]}A#{r[far]} #{r[far]} 0 0 0 #{r[x2]} #{r[y2]}Z"
      end

      def spoken
        "A stick and a blade from above; the hand #{@x.round} mm right and #{@y.round} mm up of where it begins."
      end

      private

      def out(degrees, far) = [far * Math.cos(degrees * Math::PI / 180), -far * Math.sin(degrees * Math::PI / 180)]
    end
  end
end
