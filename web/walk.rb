# frozen_string_literal: true

module Vestry
  module Web
    # What is due, as a walk: the trees with something due joined in walking order, and where one stands in it.
    class Walk
      # A graft or a stripped trunk with what is due on it.
      Stop = Struct.new(:of, :items, keyword_init: true) do
        def wound? = items.first.wound?
        def tree = items.first.tree
        def place = items.first.place
        def label = items.first.label
        def task = items.first.task
        # The place, as an address carries it.
        def address = place.join(",")
      end

      # @param agenda [Records::Agenda]
      # @param from [String, nil] the place from which the walk goes on
      def initialize(orchard, agenda, from: nil)
        @orchard = orchard
        @agenda = agenda
        @from = from.to_s.split(",", 3).then { |row, number, tag| row && number ? [row, number.to_i, tag.to_s] : nil }
      end

      # In walking order, each with its most pressing task first.
      def stops
        @stops ||= @agenda.due.group_by { |item| [item.wound?, item.of.id] }
          .map { |_, items| Stop.new(of: items.first.of, items: items) }.sort_by(&:place)
      end

      def here = stops[at]
      def following = stops.size > 1 ? stops[(at + 1) % stops.size] : nil
      def number = at + 1

      # The trees of the walk, drawn where they stand and joined.
      def map
        trees = stops.map(&:tree).uniq(&:id)
        ids = trees.map(&:id)
        crowns = Records::Crowns.of(@orchard, ids)
        Drawings::OrchardMap.new(OrchardView.around(trees.map(&:map_x), trees.map(&:map_y)), trees: trees,
          states: states(crowns), crowns: crowns, rows: OrchardView.row_names(trees), walk: ids, here: here&.tree&.id)
      end

      private

      # Every tree of the walk is grafted, or its trunk was stripped.
      def states(crowns)
        crowns.transform_values { |limbs| limbs.any? { |limb| limb.state == "lost" } ? "trouble" : "grafted" }
          .tap { |known| known.default = "grafted" }
      end

      def at = @at ||= (@from && stops.index { |stop| (stop.place <=> @from) >= 0 }) || 0
    end
  end
end
