# frozen_string_literal: true

module Vestry
  module Drawings
    # Rates of taking below each other, each a dot with its interval: how sure it is can be seen. As wide as its page,
    # with each name above its line.
    class Intervals
      # Of the width, on either side.
      MARGIN = 3.0
      LINE = 48

      attr_reader :title

      # @param lines [Array<Hash>] +kind+, +takes+, +trials+, +rate+, +low+, +high+, and perhaps +drawn+, the rate
      #   drawn towards the whole
      def initialize(lines, title:)
        @lines = lines
        @title = title
      end

      def svg = Template.render("intervals", self)
      def height = @lines.size * LINE + 28
      def marks
        [0, 0.25, 0.5, 0.75, 1].map do |share|
          { at: at(share), text: "#{(share * 100).round} %",
            anchor: { 0 => "start", 1 => "end" }.fetch(share, "middle") }
        end
      end

      def rows
        @lines.each_with_index.map do |line, i|
          { y: i * LINE, name: line[:kind].to_s, low: at(line[:low]), high: at(line[:high]),
            at: line[:rate] && at(line[:rate]), drawn: line[:drawn] && at(line[:drawn]),
            count: "#{line[:takes]} of #{line[:trials]}", faint: line[:trials] < 10 }
        end
      end
      def spoken = @lines.map { |line| "#{line[:kind]}: #{line[:takes]} of #{line[:trials]}" }.join("; ")

      private

      # Percent of the width.
      def at(share) = (MARGIN + (100 - 2 * MARGIN) * share).round(2)
    end
  end
end
