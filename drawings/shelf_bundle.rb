# frozen_string_literal: true

module Vestry
  module Drawings
    # A bundle as it lies on the shelf: its sticks end-on at their size, all bundles to one scale, and its life as an
    # edge that burns down from the right.
    class ShelfBundle
      # Pixels to a mm.
      TIMES = 2.4
      WIDTH, LIFE = 250, 9
      MOST = 48

      # @param sticks [Array<Float, nil>] across, mm; nil for one that was not measured
      # @param life [Float, nil] the share that is left
      # @param pencil_mm [Float] how thick an unmeasured stick is drawn
      def initialize(sticks, life:, pencil_mm:, title:)
        @sticks = sticks
        @life = life
        @pencil_mm = pencil_mm
        @title = title
      end

      attr_reader :title

      def svg = Template.render("shelf_bundle", self)
      def width = WIDTH
      def height = (rows.size * pitch) + LIFE + 10
      def more = [@sticks.size - MOST, 0].max
      def life? = !@life.nil?
      def left = (WIDTH * @life.clamp(0, 1)).round(1)

      # The edge of what is burnt, ragged as ash.
      def edge
        y = height - LIFE - 2
        "M#{left} #{y}l4 2l-3 2l5 3l-4 #{LIFE - 7}"
      end

      # As they lie: rows from the floor up, the thick ones below.
      def discs
        rows.each_with_index.flat_map do |row, level|
          x = 2.0
          row.map do |mm|
            r = (mm || @pencil_mm) * TIMES / 2
            x += r * 2 + 1.5
            { x: (x - r - 1.5).round(1), y: (height - LIFE - 6 - level * pitch - r).round(1), r: r.round(1),
              measured: !mm.nil? }
          end
        end
      end

      private

      def pitch = @pitch ||= (@sticks.first(MOST).map { |mm| mm || @pencil_mm }.max || @pencil_mm) * TIMES + 1
      def rows = @rows ||= @sticks.first(MOST).sort_by { |mm| -(mm || @pencil_mm) }.each_slice(per_row).to_a
      def per_row = [(WIDTH / pitch).floor, 1].max
    end
  end
end
