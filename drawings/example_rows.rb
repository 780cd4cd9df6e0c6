# frozen_string_literal: true

module Vestry
  module Drawings
    # How an orchard will be drawn, for one in which no tree stands yet: two made-up rows, the first of them being
    # turned.
    class ExampleRows < OrchardMap
      ExampleTree = Struct.new(:id, :label, :row, :map_x, :map_y, :species, :form, keyword_init: true)

      # In metres: from tree to tree, from row to row, and from a trunk to the end of a limb.
      APART = 5.0
      ROWS_APART = 6.5
      LONG = 1.9
      # Where a limb is cut, by its length from the trunk.
      CUT = 0.4
      TREES = 5
      # By the number of a tree of the first row: the state of its limbs in turn.
      TURNED = { 1 => %w[grafted grafted nurse], 2 => %w[grafted nurse grafted], 3 => %w[work work nurse],
                 4 => %w[work nurse later] }.freeze
      private_constant :ExampleTree, :APART, :ROWS_APART, :LONG, :CUT, :TREES, :TURNED

      # @param units [String] of the ruler
      def initialize(units: "metric")
        trees = %w[A B].each_with_index.flat_map { |row, place| (1..TREES).map { |number| tree(row, place, number) } }
        crowns = trees.to_h { |each| [each.id, limbs(each)] }
        states = trees.to_h { |each| [each.id, state(crowns[each.id].map(&:state))] }
        rows = trees.select { |each| each.label.end_with?("1") }
        super([-4.0, -12.0, 4.0 + APART * (TREES - 1), 4.6], trees: trees, states: states, crowns: crowns, units: units,
              rows: rows.map { |each| { text: each.row, tree: each.id, x: each.map_x, y: each.map_y } })
      end

      def title = "An example: two rows of trees from above, north up"

      private

      def tree(row, place, number)
        ExampleTree.new(id: place * TREES + number, label: "#{row}#{number}", row: row, map_x: (number - 1) * APART,
                 map_y: -place * ROWS_APART, species: "apple", form: "bush")
      end

      # Round its trunk, no two trees alike.
      def limbs(tree)
        many = 4 + tree.id % 2
        states = (tree.row == "A" && TURNED[tree.id]) || %w[open]
        Array.new(many) do |i|
          limb(("A".ord + i).chr, states[i % states.size], tree.id * 53 + i * 360.0 / many + aside(tree, i + 1) * 14,
               LONG + aside(tree, i) * 0.3)
        end
      end

      # One of -1, 0 and 1.
      def aside(tree, place) = (tree.id * place) % 3 - 1

      # Until its cut where it is worked, or was.
      def limb(tag, state, bearing, long)
        at = ->(metres) { [Math.sin(bearing * Math::PI / 180) * metres, Math.cos(bearing * Math::PI / 180) * metres] }
        Records::Crowns::CrownLimb.new(tag: tag, state: state, from: at[0.12], to: at[long], across_m: 0.06,
                                       cut: (at[long * CUT] unless %w[open nurse].include?(state)))
      end

      def state(states) = { "grafted" => "grafted", "work" => "planned" }.find { |each, _| states.include?(each) }&.last
    end
  end
end
