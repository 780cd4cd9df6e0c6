# frozen_string_literal: true

module Vestry
  module Web
    # The part of the orchard that is looked at: a window in metres, filters, and the trees in it.
    class OrchardView
      MOST_GLYPHS = 420
      MOST_LISTED = 60
      # More trees than these are no walk that a drawing could show.
      MOST_WALKED = 90
      EDGE = 4.0

      attr_reader :orchard, :filters, :wanted

      # @param query [Hash] as Contracts::Query reads it
      # @param wanted [Array<Integer>] trees that are marked
      # @param season [Integer, nil] draws grafts as far as they were made by it
      def initialize(orchard, query, today, wanted: [], season: nil)
        @orchard = orchard
        @query = query
        @today = today
        @wanted = wanted
        @season = season
        @filters = query.slice(:species, :state, :variety, :due)
      end

      # A window about places, with a margin, in the drawing's own shape.
      #
      # @param xs [Array<Float>] metres to the east, and +ys+ to the north
      # @return [Array(Float, Float, Float, Float)] west, south, east, north
      def self.around(xs, ys)
        shape = Drawings::OrchardMap::WIDTH / Drawings::OrchardMap::HEIGHT
        (x, across), (y, along) = [xs, ys].map { |all| middle_and_span(all) }
        wide = [across + EDGE * 2, (along + EDGE * 2) * shape, 30.0].max
        [x - wide / 2, y - wide / shape / 2, x + wide / 2, y + wide / shape / 2]
      end

      def self.middle_and_span(all)
        low, high = all.empty? ? [0.0, 0.0] : all.minmax
        [(low + high) / 2, high - low]
      end
      private_class_method :middle_and_span

      # Trees drawn where they stand and joined in their order; of many the next ones.
      #
      # @param here [Records::Tree, nil] where one stands
      # @return [Drawings::OrchardMap]
      def self.walk(orchard, trees, today:, here: nil)
        trees = next_of(trees.uniq(&:id), here)
        crowns = Records::Crowns.of(orchard, trees.map(&:id), planning: orchard.season_to_plan(today))
        states = trees.to_h { |tree| [tree.id, Records::Crowns.state_of(crowns.fetch(tree.id, []))] }
        Drawings::OrchardMap.new(around(trees.map(&:map_x), trees.map(&:map_y)), trees: trees, states: states,
          crowns: crowns, rows: row_names(trees), walk: trees.map(&:id), here: here&.id,
          units: orchard.units)
      end

      # What is said under such a drawing where it does not show all of the walk; nil where it does.
      def self.walked(trees)
        count = trees.map(&:id).uniq.size
        count > MOST_WALKED ? "The next #{MOST_WALKED} of #{count} trees" : nil
      end

      def self.next_of(trees, here)
        at = trees.index { |tree| tree.id == here&.id } || 0
        trees[[at, [trees.size - MOST_WALKED, 0].max].min, MOST_WALKED]
      end
      private_class_method :next_of

      # The first tree of each row, where its name stands.
      def self.row_names(trees)
        trees.group_by(&:row).map do |row, all|
          all.min_by(&:map_x).then { |tree| { text: row, tree: tree.id, x: tree.map_x, y: tree.map_y } }
        end
      end

      # West, south, east, north, in metres, in the shape of the drawing.
      def window
        @window ||= begin
          wide = (@query[:w] || whole[2] - whole[0]).clamp(12.0, 100_000.0)
          x = @query[:x] || (whole[0] + whole[2]) / 2
          y = @query[:y] || (whole[1] + whole[3]) / 2
          high = wide * Drawings::OrchardMap::HEIGHT / Drawings::OrchardMap::WIDTH
          [x - wide / 2, y - high / 2, x + wide / 2, y + high / 2]
        end
      end

      def map
        @map ||= Drawings::OrchardMap.new(window, trees: drawn, states: states, crowns: crowns, heaps: heaps,
                                                  rows: rows, wanted: wanted, units: @orchard.units)
      end


      def count = @count ||= filters.empty? ? extent.last : trees.count
      def in_window = @in_window ||= moved? ? trees.count_in(window) : count
      def listed = @listed ||= trees.in(window, most: MOST_LISTED)
      def states = @states ||= Records::TreeQueries.tree_states(orchard.id, (drawn + listed).map(&:id).uniq)
      def heaped? = in_window > MOST_GLYPHS

      # The address of another look: moved by shares of the window, nearer or further.
      def query(east: 0, north: 0, times: 1, **other)
        west, south, far_east, far_north = window
        wide = far_east - west
        at = { x: (west + far_east) / 2 + east * wide, y: (south + far_north) / 2 + north * wide / 2, w: wide * times }
        Rack::Utils.build_query(filters.merge(at.transform_values { |mm| mm.round(1) }).merge(other))
      end

      # Whether a part is looked at; else all of it is in the window.
      def moved? = %i[x y w].any? { |name| @query.key?(name) }

      private

      def extent = @extent ||= Records::Places.extent(orchard)

      def whole
        @whole ||= extent.first.then { |west, south, east, north| OrchardView.around([west, east], [south, north]) }
      end

      def trees = @trees ||= Records::TreeWindow.new(orchard, @today, filters)
      def crowns
        @crowns ||= Records::Crowns.of(orchard, drawn.map(&:id), planning: orchard.season_to_plan(@today),
                                                                       by: @season && orchard.season.span(@season).max)
      end
      def drawn = @drawn ||= heaped? ? [] : trees.in(window)
      def heaps = heaped? ? trees.heaps(window, (window[2] - window[0]) / 40) : []

      def rows = heaped? ? [] : OrchardView.row_names(drawn)
    end
  end
end
