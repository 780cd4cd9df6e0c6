# frozen_string_literal: true

module Vestry
  module Drawings
    # A stub's end and the sticks that go to it, side by side at one scale.
    class Fit
      WIDTH = 170.0
      HEIGHT = 52.0

      # Pixels a mm on every line of a match, so that stubs and sticks can be told by size; what is larger than the line
      # is high is drawn as large as there is room for.
      TIMES = 0.85

      # @param stub_mm [Float]
      # @param sticks_mm [Array<Float>]
      # @param wanted [Integer] how many the stub takes
      def initialize(stub_mm, sticks_mm, wanted:, words:)
        @stub_mm = stub_mm
        @sticks_mm = sticks_mm
        @wanted = wanted
        @words = words
      end

      attr_reader :words

      def svg = Template.render("fit", self)
      def width = WIDTH
      def height = HEIGHT
      def middle = HEIGHT / 2
      def stub_radius = @stub_mm * scale / 2
      def stub_x = HEIGHT / 2

      # Circles for the sticks there are, and open ones for those wanting.
      def sticks
        x = HEIGHT + 6
        (0...[@wanted, @sticks_mm.size].max).map do |i|
          mm = @sticks_mm[i]
          radius = [(mm || @sticks_mm.first || 9) * scale / 2, 2.5].max
          x += radius
          { x: x, r: radius, there: !mm.nil? }.tap { x += radius + 5 }
        end
      end

      private

      def scale = [(HEIGHT - 6) / [@stub_mm, *@sticks_mm].max, TIMES].min
    end
  end
end
