# frozen_string_literal: true

module Vestry
  module Drawings
    # The ground of a curve: its sheet, and where a share of either axis lies on it. Who draws says how
    # wide and high it is and what it leaves at each side (WIDTH, HEIGHT, LEFT, RIGHT, TOP, BOTTOM).
    module Axes
      def width = self.class::WIDTH
      def height = self.class::HEIGHT
      def left = self.class::LEFT
      def right = width - self.class::RIGHT
      def floor = height - self.class::BOTTOM
      def ceiling = self.class::TOP

      # A word beside an upright line, on the side where it has room.
      #
      # @param room [Numeric] what the word takes
      # @return [Hash] +x+ and +anchor+
      def beside(line, room)
        line + 5 + room > width ? { x: line - 5, anchor: "end" } : { x: line + 5, anchor: "start" }
      end

      private

      # @param share [Float] of the way, 0 at the left and at the foot
      def along(share) = left + (right - left) * share
      def up(share) = floor - (floor - ceiling) * share
    end
  end
end
