# frozen_string_literal: true

module Vestry
  module Drawings
    # What a tree is worth year by year, summed: left as it is, regrafted, replanted.
    class Fifteen
      WIDTH, HEIGHT, LEFT, RIGHT, TOP, BOTTOM = 620.0, 240.0, 44.0, 120.0, 14.0, 30.0
      NAMES = { "leave" => "left as it is", "regraft" => "regrafted", "replant" => "replanted" }.freeze

      # @param ways [Hash] as Core::Plan::Worth answers
      # @param first [Integer] the first year
      def initialize(ways, first:)
        @first = first
        @sums = ways.transform_values { |way| way[:years].inject([0.0]) { |all, worth| all << (all.last + worth) } }
        @years = @sums.values.first.size - 1
        @most = [@sums.values.flatten.max, 1.0].max
      end

      def svg = Template.render("fifteen", self)
      def floor = HEIGHT - BOTTOM
      def right = WIDTH - RIGHT

      # Each way's line with its name at its end, names kept apart.
      def lines
        ends = @sums.keys.sort_by { |name| -@sums[name].last }
        taken = []
        ends.map do |name|
          at = y(@sums[name].last)
          at = [at, taken.last + 17].max if taken.any?
          taken << at
          { name: NAMES.fetch(name), kind: name, at: at + 5,
            path: Stroke.straight(@sums[name].each_with_index.map { |sum, year| [x(year), y(sum)] }) }
        end
      end

      def marks = (0..@years).step(3).map { |year| { x: x(year), text: (@first + year).to_s } }

      def levels
        step = [1, 2, 5, 10].find { |each| @most / each <= 6 } || 20
        (0..(@most / step).floor).map { |n| { y: y(n * step), text: (n * step).to_s } }
      end

      def spoken
        "Over #{@years} years in full crops of the best worth: #{@sums.map { |name, sums| "#{NAMES.fetch(name)} " \
          "#{format('%.1f', sums.last)}" }.join(', ')}."
      end

      private

      def x(year) = LEFT + (right - LEFT) * year / @years
      def y(sum) = floor - (floor - TOP) * sum / @most
    end
  end
end
