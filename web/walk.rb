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
      # @param from [String, nil] the place from which the walk goes on; it begins where it presses most
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

      # How many tasks are due besides those of this walk, which takes the most pressing.
      def more = @agenda.due_count - stops.sum { |stop| stop.items.size }

      def here = stops[at]
      def following = stops.size > 1 ? stops[(at + 1) % stops.size] : nil
      def number = at + 1

      # The trees of the walk, drawn where they stand and joined.
      def map = OrchardView.walk(@orchard, stops.map(&:tree), today: @agenda.today, here: here&.tree)

      private

      def at = @at ||= (@from ? stops.index { |stop| (stop.place <=> @from) >= 0 } : pressing) || 0

      def pressing
        first = @agenda.most_pressing
        first && stops.index { |stop| stop.items.any? { |item| item.equal?(first) } }
      end
    end
  end
end
