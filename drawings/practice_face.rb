# frozen_string_literal: true

module Vestry
  module Drawings
    # A stick laid down, its thin end on the left, and the path of the blade through it.
    class PracticeFace
      LEFT, AXIS, ACROSS, ALONG, WIDTH, HEIGHT = 40.0, 160.0, 16.0, 5.4, 900, 330
      private_constant :LEFT, :AXIS

      # @param exercise [Hash] as Core::Practice::Face shows it
      # @param base_mm [Float] where the stick is cut off, +side+ and +points+, as they were cut
      # @param result [Hash, nil] what that came to
      def initialize(exercise, base_mm: 0.0, side: "up", points: [], result: nil)
        @exercise = exercise
        @base, @side, @points = base_mm, side, points
        @result = result
      end

      attr_reader :exercise

      def svg = Template.render("practice_face", self)
      def judged? = !@result.nil?
      def width = WIDTH
      def height = HEIGHT
      def left = LEFT
      def axis = AXIS
      def half = exercise[:scion_mm] * ACROSS / 2
      def long = exercise[:long_mm] * ALONG
      def base = @base
      def buds = exercise[:buds].map { |bud| { x: LEFT + bud[:at_mm] * ALONG, up: bud[:side] == "up" } }
      # As it was drawn, and once it is told as it was cut.
      def path = trace(judged? ? @result[:cut] : @points, @side)
      def best = judged? ? trace(@result[:best][:points], @result[:best][:side]) : nil
      def spoken = "A stick #{format('%g', exercise[:scion_mm])} mm thick with #{exercise[:buds].size} buds, laid down."

      private

      def trace(points, side)
        return "" if points.empty?

        Stroke.straight(points.sort_by { |point| point[:at_mm] }.map do |point|
          depth = point[:depth_mm] * ACROSS
          [LEFT + point[:at_mm] * ALONG, side == "up" ? AXIS - half + depth : AXIS + half - depth]
        end)
      end
    end
  end
end
