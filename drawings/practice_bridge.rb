# frozen_string_literal: true

module Vestry
  module Drawings
    # A stripped trunk unrolled, and the scions that are to bridge it, pulled along it.
    class PracticeBridge
      LEFT, GROUND, UP, WIDTH, HEIGHT = 62.0, 430.0, 0.8, 820, 470
      private_constant :LEFT, :GROUND, :UP

      # @param exercise [Hash] as Core::Practice::Bridge shows it
      # @param scions [Array<Hash>, nil] +bearing_deg+ and +length_mm+, +turned+ the numbers of those turned round
      # @param trim_mm [Float] cut off both margins
      # @param result [Hash, nil] what that came to
      # @param units [String] in which heights are said
      def initialize(exercise, scions: nil, turned: [], trim_mm: 0.0, result: nil, units: "metric")
        @exercise = exercise
        @scions = scions || Array.new(exercise[:count]) { |i| { bearing_deg: 20.0 + i * 25, length_mm: 0.0 } }
        @turned = turned
        @trim = trim_mm
        @result = result
        @units = units
      end

      attr_reader :exercise

      def svg = Template.render("practice_bridge", self)
      def judged? = !@result.nil?
      def width = WIDTH
      def height = HEIGHT
      def per = (WIDTH - 2 * LEFT) / 360
      def left = LEFT
      def ground = GROUND
      def wound = "#{Stroke.straight(margin(:low_mm) + margin(:high_mm).reverse)}Z"
      def dead? = exercise[:dead_mm].positive?
      def trim = @trim

      # Bark that is dead, from both margins on.
      def dead
        by = exercise[:dead_mm] * UP
        %i[low_mm high_mm].zip([by, -by]).map do |name, off|
          edge = margin(name)
          "#{Stroke.straight(edge + edge.reverse.map { |x, y| [x, y + off] })}Z"
        end.join
      end

      # Where the upper margin is cut, before it is pulled.
      def cut_line = Stroke.straight(margin(:high_mm))
      def up = UP
      def grip = margin(:high_mm).last
      # Every hand's breadth up, and in which unit that is said.
      def heights
        return (0..500).step(100).map { |mm| { said: mm, y: y(mm) } } unless inches?

        (0..20).step(4).map { |inches| { said: inches, y: y(inches * Core::Measure::INCH) } }
      end
      def unit = inches? ? "inches" : "mm"

      # Each with where it stands, how long it is drawn, and which way its buds lean.
      def scions
        @scions.each_with_index.map do |scion, i|
          long = scion[:length_mm].positive? ? scion[:length_mm] : 260
          lean = exercise[:scions][i][:lean] * (@turned.include?(i + 1) ? -1 : 1)
          { x: scion[:bearing_deg] * per, at: scion[:bearing_deg], top: y(middle_mm + long / 2.0),
            long: long * UP, lean: lean, wrong: wrong?(i + 1) }
        end
      end

      def spoken = "A trunk #{exercise[:girth_mm]} mm round, unrolled, and #{exercise[:count]} scions."

      private

      def inches? = @units == "imperial"
      def y(mm) = GROUND - mm * UP
      def middle_mm = exercise[:wound].sum { |each| each[:low_mm] + each[:high_mm] } / (2.0 * exercise[:wound].size)

      # Round the back to the first again.
      def margin(name)
        points = exercise[:wound].map { |each| [LEFT + each[:bearing_deg] * per, y(each[name])] }
        points << [LEFT + 360 * per, points.first[1]]
      end

      def wrong?(number)
        judged? && @result[:feedback].any? { |each| each[:scion] == number || each[:scions]&.include?(number) }
      end
    end
  end
end
