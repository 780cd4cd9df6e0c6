# frozen_string_literal: true

module Vestry
  module Drawings
    # The sticks of one bundle, end-on, each at its size and all to one scale, in the order of their numbers. Those that
    # the match gives to a stub are lifted towards its name; those that left are outlines.
    class BundleSticks
      include TwoWidths

      # Pixels to a mm.
      TIMES = 3.4
      WIDE, NARROW = 860, 344
      # Room for a stub's name over a stick, and how far a matched one is lifted.
      LEAST_CELL, LIFT = 56, 20
      LABEL, NUMBER = 16, 18
      # @!attribute mm [Float, nil] across; nil where it was not measured
      # @!attribute for [String, nil] what it goes to, or where it went
      # @!attribute gone [Boolean]
      BundleStick = Struct.new(:number, :mm, :for, :gone, :href, keyword_init: true)

      # @param sticks [Array<BundleStick>]
      # @param pencil_mm [Float] how thick an unmeasured stick is drawn
      # @param units [String]
      def initialize(sticks, pencil_mm:, units:, title:, width: WIDE)
        @sticks = sticks
        @width = width
        @pencil_mm = pencil_mm
        @units = units
        @title = title
      end

      attr_reader :title

      def svg = Template.render("bundle_sticks", self)
      # @return [String] SVG, for both widths
      def both = self.class.both(@sticks, pencil_mm: @pencil_mm, units: @units, title: title)

      def height = (@sticks.each_slice(per_row).count * pitch) + 30

      def discs
        @sticks.each_with_index.map do |stick, i|
          row, column = i.divmod(per_row)
          placed(stick, ((row + 1) * pitch) - NUMBER)
            .merge(x: (column + 0.5) * cell, kind: kind(stick), stick: stick, spoken: spoken(stick))
        end
      end

      # The board they lie on, a line under each row.
      def boards = (1..@sticks.each_slice(per_row).count).map { |row| (row * pitch) - NUMBER }

      def ruler
        mm, words = @units == "imperial" ? [12.7, "1/2 in"] : [20.0, "20 mm"]
        { width: (mm * TIMES).round(1), text: words, y: height - 8 }
      end

      def shows?(kind) = @sticks.any? { |stick| kind == "lifted" ? stick.for && !stick.gone : kind(stick) == kind }

      private

      # How a stick lies on its board, or stands over it.
      def placed(stick, floor)
        r = across(stick) * TIMES / 2
        lift = stick.for && !stick.gone ? LIFT : 0
        { y: (floor - r - lift).round(1), r: r.round(1), floor: floor, lifted: lift.positive?,
          label_y: (floor - (2 * r) - lift - 5).round(1) }
      end

      def across(stick) = stick.mm || @pencil_mm
      def widest = @widest ||= (@sticks.map { |stick| across(stick) }.max || @pencil_mm) * TIMES
      def cell = @cell ||= [widest + 12, LEAST_CELL].max
      def per_row = [(width / cell).floor, 1].max
      def pitch = widest + LIFT + LABEL + NUMBER + 4

      def kind(stick)
        return "gone" if stick.gone

        stick.mm ? "here" : "guessed"
      end

      def spoken(stick)
        size = stick.mm ? Core::Measure.say(stick.mm, @units) : "not measured"
        "stick #{stick.number}, #{size}#{", #{'for ' unless stick.gone}#{stick.for}" if stick.for}"
      end
    end
  end
end
