# frozen_string_literal: true

module Vestry
  module Drawings
    # Ten seasons of one way of changing a tree: the head that lives, old wood and new, and what it
    # bears, as shares of what stood before.
    class Decade
      WIDTH = 300.0
      HEIGHT = 200.0
      LEFT = 46.0
      RIGHT = 8.0
      TOP = 12.0
      BOTTOM = 26.0

      # @param projection [Hash] one plan of the projection reckoning
      # @param first [Integer] the year of its first season
      # @param title [String]
      # @param future [Hash, nil] the same plan foreseen: then its living wood and its crop are those of many futures,
      #   and the crop is a band from the tenth to the ninetieth of a hundred
      def initialize(projection, first:, title:, future: nil)
        @future = future && future[:seasons]
        @rows = @future ? projection[:seasons].zip(@future).map { |row, seen| foreseen(row, seen) } :
          projection[:seasons]
        @first = first
        @title = title
      end

      attr_reader :title

      def svg = Template.render("decade", self)

      def width = WIDTH
      def height = HEIGHT
      def left = LEFT
      def right = WIDTH - RIGHT
      def floor = HEIGHT - BOTTOM

      def description
        @rows.map { |row| "#{@first + row[:season]}: #{(row[:canopy] * 100).round} % of the " \
                          "head, #{(row[:crop] * 100).round} % of the crop" }.join(". ")
      end

      def levels = [0, 0.5, 1].map { |share| { y: y(share), text: "#{(share * 100).round} %" } }
      def years
        @rows.map do |row|
          { x: x(row[:season]), text: row[:season].even? || @rows.size < 6 ?
            "’#{format('%02d', (@first + row[:season]) % 100)}" : nil }
        end
      end

      # Old wood: steps down at each cut.
      def old = steps(@rows.map { |row| row[:old] })

      # What has grown anew, on top of it.
      def grown
        tops = @rows.map { |row| [x(row[:season]), y(row[:old] + row[:grown])] }
        floors = @rows.map { |row| [x(row[:season]), y(row[:old])] }.reverse
        "#{Stroke.straight(tops)}#{Stroke.straight(floors).sub('M', 'L')}Z"
      end

      def crop = Stroke.straight(@rows.map { |row| [x(row[:season]), y(row[:crop])] })

      # Between which the crop lies in eight futures of ten.
      def band
        return unless @future

        tops, floors = %i[p90 p10].map { |rank| @future.map { |row| [x(row[:season]), y(row[:crop][rank])] } }
        "#{Stroke.straight(tops)}#{Stroke.straight(floors.reverse).sub('M', 'L')}Z"
      end
      def seen = @rows.select { |row| row[:measured] }.map { |row| [x(row[:season]), y(row[:canopy])] }

      # A tick at each season in which something is cut.
      def cuts
        @rows.select { |row| row[:removed].positive? }.map do |row|
          { x: x(row[:season]), text: "#{(row[:removed] * 100).round} % off" }
        end
      end

      private

      def foreseen(row, seen)
        return row if row[:measured]

        row.merge(canopy: seen[:living][:mean], grown: [seen[:living][:mean] - row[:old], 0.0].max,
                  crop: seen[:crop][:p50])
      end

      def x(season) = LEFT + (right - LEFT) * season / [@rows.size - 1, 1].max
      def y(share) = floor - (floor - TOP) * [share, 1.08].min

      def steps(values)
        points = values.each_with_index.map { |value, i| [x(i), y(value)] }
        "#{Stroke.straight(points)}L#{Stroke.round(x(values.size - 1))} #{Stroke.round(floor)}L" \
        "#{Stroke.round(x(0))} #{Stroke.round(floor)}Z"
      end
    end
  end
end
