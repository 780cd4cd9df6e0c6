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

      private

      # @param share [Float] of the way, 0 at the left and at the foot
      def along(share) = left + (right - left) * share
      def up(share) = floor - (floor - ceiling) * share
    end
  end
end
