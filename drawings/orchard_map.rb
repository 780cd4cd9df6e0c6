# frozen_string_literal: true

module Vestry
  module Drawings
    # The orchard from above: rows as planted, a glyph a tree that says its form and state.
    class OrchardMap
      WIDTH = 860.0
      EDGE = 56.0
      GLYPHS = {
        "bush" => "M0 6V1M0 1C-9 2-10-8-4-9C-3-13 4-13 5-9C10-8 9 2 0 1Z",
        "open-vase" => "M0 6V1M0 1L-8-9M0 1L8-9M-9-9C-6-13 6-13 9-9",
        "standard" => "M0 8V-2M0-2C-9-1-10-10-4-12C-3-16 4-16 5-12C10-10 9-1 0-2Z",
        "central-leader" => "M0 8V-16M-7 1L0-4L7 1M-6-4L0-9L6-4M-4-9L0-13L4-9",
        "wall-trained" => "M0 8V-10M-11 3H11M-11-3H11M-11-9H11"
      }.freeze
      Mark = Struct.new(:id, :label, :x, :y, :glyph, :state, :spoken, :chosen, keyword_init: true)

      attr_reader :href

      # @param trees [Array<Records::Tree>]
      # @param states [Hash{Integer=>String}] each tree's state in a word
      def initialize(trees, states, href: ->(_) {})
        @trees = trees
        @states = states
        @href = href
      end

      def svg = Page.render("orchard_map", self)

      def title = "The orchard from above, north up: #{@trees.size} trees"
      def width = WIDTH
      def height = @height ||= [EDGE * 2 + (span(:last) * scale), 240].max.to_f

      def marks
        @marks ||= @trees.map do |tree|
          x, y = sheet(place(tree))
          state = @states.fetch(tree.id, "open")
          Mark.new(id: tree.id, label: tree.label, x: x, y: y, glyph: GLYPHS.fetch(tree.form), state: state,
                   spoken: "#{tree.label}, #{tree.species}, #{tree.form.tr('-', ' ')}, #{state}")
        end
      end

      # The name of each row, beside its first tree.
      def row_names
        marks.group_by { |mark| mark.label[/\A\D+/] }.map { |row, all| all.min_by(&:x).then { |first| { text: row, x: first.x - 32, y: first.y + 2 } } }
      end

      private

      # Where a tree stands in metres: as surveyed, else by its row and number.
      def place(tree)
        return [tree.x_m, tree.y_m] if tree.x_m && tree.y_m

        rows = @trees.map(&:row).uniq.sort
        [(tree.number - 1) * 5.0, rows.index(tree.row) * 6.0]
      end

      def places = @places ||= @trees.map { |tree| place(tree) }
      def lows = @lows ||= places.transpose.map(&:min)
      def highest = @highest ||= places.map(&:last).max
      def span(which) = places.transpose.send(which).then { |axis| axis.max - axis.min }

      def scale
        @scale ||= [(WIDTH - EDGE * 2) / [span(:first), 1].max, 520.0 / [span(:last), 1].max, 24.0].min
      end

      def sheet((x, y)) = [EDGE + (x - lows[0]) * scale, EDGE + (highest - y) * scale]
    end
  end
end
