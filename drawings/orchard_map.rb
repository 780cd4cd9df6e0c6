# frozen_string_literal: true

module Vestry
  module Drawings
    # A window of the orchard from above, north up: each tree in its planted place with its limbs to true bearing and
    # length, or heaps where single trees would be too many to tell apart.
    class OrchardMap
      WIDTH = 860.0
      HEIGHT = 520.0
      # +strokes+ are paths by what they show: leaf, wood, grafted, later, cut, lost.
      Mark = Struct.new(:id, :label, :row, :x, :y, :reach, :strokes, :state, :wanted, :spoken, keyword_init: true)

      # @param window [Array] west, south, east, north, in metres
      # @param heaps [Array<Hash>] +x+, +y+ in metres and +trees+
      # @param crowns [Hash{Integer=>Array<Records::Crowns::CrownLimb>}] by tree
      # @param rows [Array<Hash>] +text+, and +tree+, the row's first, with its place
      # @param wanted [Array<Integer>] trees on which something is due
      # @param walk [Array<Integer>] trees that are joined by a line, in order
      # @param here [Integer, nil] the tree that one stands at
      # @param units [String] of the ruler
      def initialize(window, trees:, states:, crowns: {}, heaps: [], rows: [], wanted: [], walk: [], here: nil,
                     units: "metric")
        @window = window
        @trees = trees
        @states = states
        @crowns = crowns
        @heaps = heaps
        @rows = rows
        @wanted = here ? [here] : wanted
        @walk = walk
        @units = units
      end

      # @param href [Proc, nil] where a tree leads; nil draws a picture that leads nowhere
      def svg(href:) = Template.render("orchard_map", self, href: href)
      def inner(href:) = Template.render("orchard_marks", self, href: href)

      def title
        "The orchard from above, north " \
        "up: #{Spoken.counted(@trees.empty? ? @heaps.sum { |heap| heap[:trees] } : @trees.size, 'tree')}" \
        "#{', in heaps' if @trees.empty?}"
      end
      def width = WIDTH.to_i
      def height = HEIGHT.to_i
      def span = @window[2] - @window[0]
      def centre = [(@window[0] + @window[2]) / 2, (@window[1] + @window[3]) / 2]

      # Of one metre, in the drawing's units.
      def scale = WIDTH / span
      # Lettering keeps its size; names are left out where trees stand too close for them.
      def named? = scale * 5 > 34

      def marks
        @trees.map do |tree|
          x, y = sheet(tree.map_x, tree.map_y)
          limbs, wanted = @crowns.fetch(tree.id, []), @wanted.include?(tree.id)
          Mark.new(id: tree.id, label: tree.label, row: tree.row, x: x, y: y, reach: reach(limbs),
                   strokes: strokes(limbs), state: @states[tree.id], wanted: wanted,
                   spoken: "#{tree.label}, #{tree.species}, #{tree.form.tr('-', ' ')}, #{@states[tree.id]}" \
                           "#{', something is due' if wanted}")
        end
      end

      # The way from tree to tree.
      def walk
        places = @trees.to_h { |tree| [tree.id, sheet(tree.map_x, tree.map_y)] }.values_at(*@walk).compact
        places.size > 1 ? Stroke.straight(places) : nil
      end

      # Whether something of a kind is drawn.
      def shows?(kind)
        @trees.any? { |tree| @crowns.fetch(tree.id, []).any? { |limb| shown(limb).include?(kind) } }
      end

      def heaps
        most = @heaps.map { |heap| heap[:trees] }.max
        @heaps.map do |heap|
          x, y = sheet(heap[:x], heap[:y])
          { x: x, y: y, r: 2.5 + 7 * Math.sqrt(heap[:trees] / most.to_f), trees: heap[:trees] }
        end
      end

      def row_names
        @rows.map do |row|
          x, y = sheet(row[:x], row[:y])
          { text: row[:text], x: [x - row_gap(row[:tree]), 14].max, y: y + 6 }
        end
      end

      ROUND = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000].freeze
      private_constant :ROUND

      # A ruler of a round number of metres, or of feet.
      def ruler
        metre, name = @units == "imperial" ? [Core::Measure::FOOT / 1000, "ft"] : [1.0, "m"]
        long = ->(many) { many * metre / span * WIDTH }
        many = ROUND.find { |each| long[each] > 60 } || ROUND.last
        { text: "#{many} #{name}", long: long[many] }
      end

      private

      # So far to the west of a row's first tree its letter stands.
      def row_gap(tree_id)
        west = @crowns.fetch(tree_id, []).map { |limb| -limb.to[0] * scale }.max || 0
        [west + 14 + scale * 0.6, 30].max
      end

      # How far a tree reaches, at the least as far as can be pressed.
      def reach(limbs)
        [*limbs.map { |limb| Math.hypot(*limb.to) * scale }, 14].max.clamp(14, 120)
      end

      def strokes(limbs)
        drawn = Hash.new { |paths, kind| paths[kind] = +"" }
        limbs.each { |limb| stroke(limb, drawn) }
        drawn
      end

      def stroke(limb, drawn)
        from, to = own(limb.from), own(limb.end_point)
        drawn[kind(limb)] << Stroke.straight([from, to])
        drawn["leaf"] << leaf(limb) unless limb.end_point.equal?(limb.cut)
        case limb.state
        when "lost" then drawn["cross"] << cross(to)
        when "work", "backup", "renew", "lift" then drawn["cut"] << bar(limb) if limb.cut
        when "later" then drawn["cut-later"] << bar(limb) if limb.cut
        end
      end

      def shown(limb)
        [kind(limb), ("cross" if limb.state == "lost"),
         (limb.state == "later" ? "cut-later" : "cut" if limb.cut && kind(limb) == "wood" && limb.state != "lost")]
      end

      def kind(limb)
        { "grafted" => "grafted", "lost" => "wood", "open" => "open", "nurse" => "nurse" }.fetch(limb.state, "wood")
      end

      # From the trunk in the drawing's units.
      def own(point) = [point[0] * scale, -point[1] * scale]

      # A wash at its end, as wide as the limb is long.
      def leaf(limb)
        (ax, ay), (bx, by) = own(limb.from), own(limb.to)
        r = [Math.hypot(bx - ax, by - ay) * 0.3, 2].max
        Stroke.round_about(bx, by, r)
      end

      # Across the limb where it will be cut.
      def bar(limb)
        Stroke.across(own(limb.cut), Stroke.heading(own(limb.from), own(limb.to)), [scale * 0.32, 3].max)
      end

      def cross(point)
        r = [scale * 0.28, 3].max
        x, y = point
        Stroke.straight([[x - r, y - r], [x + r, y + r]]) + Stroke.straight([[x + r, y - r], [x - r, y + r]])
      end

      def sheet(x, y) = [(x - @window[0]) / span * WIDTH, (@window[3] - y) / span * WIDTH]
    end
  end
end
