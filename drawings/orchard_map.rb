# frozen_string_literal: true

module Vestry
  module Drawings
    # A window of the orchard from above, north up: a glyph a tree that says its form and
    # state, or heaps where single trees would be too many to tell apart.
    class OrchardMap
      WIDTH = 860.0
      HEIGHT = 520.0
      GLYPHS = {
        "bush" => "M0 6V1M0 1C-9 2-10-8-4-9C-3-13 4-13 5-9C10-8 9 2 0 1Z",
        "open-vase" => "M0 6V1M0 1L-8-9M0 1L8-9M-9-9C-6-13 6-13 9-9",
        "standard" => "M0 8V-2M0-2C-9-1-10-10-4-12C-3-16 4-16 5-12C10-10 9-1 0-2Z",
        "central-leader" => "M0 8V-16M-7 1L0-4L7 1M-6-4L0-9L6-4M-4-9L0-13L4-9",
        "wall-trained" => "M0 8V-10M-11 3H11M-11-3H11M-11-9H11"
      }.freeze
      Mark = Struct.new(:id, :label, :x, :y, :glyph, :state, :spoken, keyword_init: true)

      # @param window [Array] west, south, east, north, in metres
      # @param heaps [Array<Hash>] +x+, +y+ in metres and +trees+
      # @param rows [Array<Hash>] +text+ and the place of each row's first tree
      def initialize(window, trees:, states:, heaps: [], rows: [])
        @window = window
        @trees = trees
        @states = states
        @heaps = heaps
        @rows = rows
      end

      def svg(href:) = Template.render("orchard_map", self, href: href)
      def inner(href:) = Template.render("orchard_marks", self, href: href)

      def title
        "The orchard from above, north " \
        "up: #{@trees.empty? ? "#{@heaps.sum { |heap| heap[:trees] }} trees, in heaps" : "#{@trees.size} trees"}"
      end
      def width = WIDTH.to_i
      def height = HEIGHT.to_i
      def span = @window[2] - @window[0]
      def centre = [(@window[0] + @window[2]) / 2, (@window[1] + @window[3]) / 2]

      # How large a glyph is drawn: smaller as trees crowd.
      def size = (2.1 / (span / WIDTH) / 22).clamp(0.42, 1.25)
      def named? = size > 0.55

      def marks
        @trees.map do |tree|
          x, y = sheet(tree.map_x, tree.map_y)
          state = @states[tree.id]
          Mark.new(id: tree.id, label: tree.label, x: x, y: y, glyph: GLYPHS.fetch(tree.form), state: state,
                   spoken: "#{tree.label}, #{tree.species}, #{tree.form.tr('-', ' ')}, #{state}")
        end
      end

      def heaps
        most = @heaps.map { |heap| heap[:trees] }.max
        @heaps.map do |heap|
          x, y = sheet(heap[:x], heap[:y])
          { x: x, y: y, r: 2.5 + 7 * Math.sqrt(heap[:trees] / most.to_f), trees: heap[:trees] }
        end
      end

      def row_names
        @rows.map { |row| sheet(row[:x], row[:y]).then { |x, y| { text: row[:text], x: x - 34 * size - 6, y: y + 4 } } }
      end

      # A ruler of a round number of metres.
      def ruler
        metres = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000].find { |each| each / span * WIDTH > 60 } ||
          10_000
        { metres: metres, long: metres / span * WIDTH }
      end

      private

      def sheet(x, y) = [(x - @window[0]) / span * WIDTH, (@window[3] - y) / span * WIDTH]
    end
  end
end
