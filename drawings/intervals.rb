# frozen_string_literal: true

module Vestry
  module Drawings
    # Rates of taking side by side, each a dot with its interval: how sure it is can be seen.
    class Intervals
      WIDTH = 620.0
      LEFT = 190.0
      RIGHT = 20.0
      LINE = 34.0

      attr_reader :title

      # @param lines [Array<Hash>] +kind+, +takes+, +trials+, +rate+, +low+, +high+, and perhaps +drawn+, the rate
      #   drawn towards the whole
      def initialize(lines, title:)
        @lines = lines
        @title = title
      end

      def svg = Template.render("intervals", self)
      def width = WIDTH
      def height = (@lines.size * LINE + 40).round
      def floor = height - 26
      def marks = [0, 0.25, 0.5, 0.75, 1].map { |share| { x: x(share), text: "#{(share * 100).round} %" } }
      def rows
        @lines.each_with_index.map do |line, i|
          { y: 18 + i * LINE, name: line[:kind].to_s, low: x(line[:low]), high: x(line[:high]),
            at: line[:rate] && x(line[:rate]), drawn: line[:drawn] && x(line[:drawn]),
            count: "#{line[:takes]} of #{line[:trials]}", faint: line[:trials] < 10 }
        end
      end
      def left = LEFT
      def spoken = @lines.map { |line| "#{line[:kind]}: #{line[:takes]} of #{line[:trials]}" }.join("; ")

      private

      def x(share) = LEFT + (WIDTH - LEFT - RIGHT) * share
    end
  end
end
