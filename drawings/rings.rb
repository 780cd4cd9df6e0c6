# frozen_string_literal: true

module Vestry
  module Drawings
    # A stub's open wood, season by season: the wound as it was measured, and as it will shrink at its
    # own pace until it is shut.
    class Rings
      SIZE = 264.0
      ROUND = 100.0

      # @param stub_mm [Float]
      # @param readings [Array<Hash>] +year+, +a_mm+, +b_mm+, in order
      # @param rate_mm [Float] a season, from each side
      # @param ends [Integer, nil] the year in which it shuts
      def initialize(label, stub_mm:, readings:, rate_mm:, ends:, units: "metric")
        @label = label
        @stub = stub_mm
        @readings = readings
        @rate = rate_mm
        @ends = ends
        @units = units
        @scale = ROUND / (stub_mm / 2)
      end

      def svg = Template.render("rings", self)

      def size = SIZE
      def middle = SIZE / 2
      def outer = ROUND
      def title = "The stub of #{@label} closing over"

      def seen
        @readings.map { |each| { rx: each[:a_mm] / 2 * @scale, ry: each[:b_mm] / 2 * @scale, year: each[:year] } }
      end

      # Seasons to come, dashed, until it is shut.
      def coming
        last = @readings.last || { year: nil, a_mm: @stub, b_mm: @stub }
        return [] if last[:year].nil? || @rate <= 0

        (1..12).map { |i| { rx: (last[:a_mm] / 2 - @rate * i) * @scale, ry: (last[:b_mm] / 2 - @rate * i) * @scale,
                            year: last[:year] + i } }.take_while do |ring|
          ring[:rx].positive? && ring[:ry].positive?
        end
      end

      # Where each season is written: down the right side, apart.
      def notes
        (seen + coming).each_with_index.map do |ring, i|
          { x: middle + ring[:rx] * 0.72, y: middle - ring[:ry] * 0.7, tx: SIZE - 2, ty: 26 + i * 19,
            text: "#{ring[:year]}#{i >= seen.size ? '?' : ''}" }
        end
      end

      def description
        now = @readings.last
        "#{now ? "open #{say(now[:a_mm])} by #{say(now[:b_mm])} in #{now[:year]}" : 'not measured yet'}, of a stub " \
        "of #{say(@stub)}#{"; shut in #{@ends}" if @ends}"
      end

      private

      def say(mm) = Core::Measure.say(mm, @units)
    end
  end
end
