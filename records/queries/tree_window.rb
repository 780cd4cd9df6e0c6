# frozen_string_literal: true

module Vestry
  module Records
    # The trees of an orchard that a filter leaves and that lie in a window.
    class TreeWindow
      # @param filters [Hash] any of +species+, +variety+ (its number), +state+ and +due+, which are given
      def initialize(orchard, today, filters)
        @orchard = orchard
        @today = today
        @filters = filters
      end

      # All that the filter leaves, wherever they stand.
      def count = filtered.count

      # @param window [Array(Float, Float, Float, Float)] west, south, east, north, in metres
      def count_in(window) = Places.inside(filtered, window).count

      # Trees in walking order.
      #
      # @param most [Integer, nil]
      def in(window, most: nil) = Places.inside(filtered, window).order(:row, :number).limit(most).all

      # How many trees stand in each cell of a grid.
      #
      # @param cell [Float] its side in metres
      def heaps(window, cell) = Places.heaps(Places.inside(filtered, window), cell)

      private

      def filtered
        @filtered ||= begin
          trees = Tree.in_sight.where(orchard_id: @orchard.id)
          trees = trees.where(species: @filters[:species]) if @filters[:species]
          trees = trees.where(variety_id: @filters[:variety].clamp(0, 2_147_483_647)) if @filters[:variety]
          trees = TreeQueries.in_state(@orchard.id, trees, @filters[:state]) if @filters[:state]
          @filters[:due] ? trees.where(id: Agenda.new(@orchard, @today).due_trees) : trees
        end
      end
    end
  end
end
