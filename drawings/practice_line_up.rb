# frozen_string_literal: true

module Vestry
  module Drawings
    # The edge of a stub and a stick on it, as they are set: bark outside, wood within, cambium between.
    class PracticeLineUp
      SCALE, EDGE, MIDDLE, WIDTH, HEIGHT = 8.0, 120.0, 280.0, 420, 560
      private_constant :EDGE, :MIDDLE, :HEIGHT

      # @param exercise [Hash] as Core::Practice::LineUp shows it
      # @param in_mm [Float] of the stick's outside, in from the stock's
      # @param result [Hash, nil] what that came to
      def initialize(exercise, in_mm: -2.0, tilt_deg: 0.0, result: nil)
        @exercise = exercise
        @in_mm = in_mm
        @tilt_deg = tilt_deg
        @result = result
      end

      attr_reader :in_mm, :tilt_deg

      def svg = Template.render("practice_line_up", self)
      def judged? = !@result.nil?
      def seen? = judged? || @exercise[:drawn]
      def width = WIDTH
      def height = HEIGHT
      def scale = SCALE
      def edge = EDGE
      def middle = MIDDLE
      def half = @exercise[:length_mm] * SCALE / 2
      def across = @exercise[:scion_mm] * SCALE
      def moved = Stroke.round(in_mm * SCALE)
      # Bark as it is, or midway between what is told of it.
      def stock_bark = bark(0, :stock_bark_mm) * SCALE
      def stick_bark = bark(1, :stick_bark_mm) * SCALE
      def spoken = "The edge of a stub, and a stick #{format('%g', @exercise[:scion_mm])} mm thick on it."

      private

      def bark(place, told)
        judged? ? @result[:best][:barks_mm][place] : @exercise[told].sum / 2
      end
    end
  end
end
