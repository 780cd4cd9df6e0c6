# frozen_string_literal: true

module Vestry
  module Web
    # The day's stubs one at a time, in walking order: what the hands want to know of each, and the graft as it is
    # logged when all goes to plan.
    class StubWalk
      # One stub of the walk.
      Stop = Struct.new(:card, :sticks, :fields, :way_on, :figures, :scion_mm, keyword_init: true) do
        def limb = card.limb
      end

      # @param sheet [Records::DaySheet]
      # @param by [String] who grafts
      # @param say [#length, #thickness] how lengths are said in this orchard
      def initialize(sheet, orchard, today, by:, say:)
        @sheet = sheet
        @orchard = orchard
        @today = today
        @by = by
        @say = say
      end

      # @return [Array<Stop>]
      def stops
        @stops ||= cards.each_with_index.map do |card, i|
          planned = PlannedGraft.new(card.limb, card.given.map(&:stick), @today, by: @by, say: @say)
          Stop.new(card: card, sticks: planned.sticks, fields: planned.fields.compact, figures: figures(card),
                   scion_mm: scion_mm(card),
                   way_on: cards[i + 1] && way_on(card, cards[i + 1]))
        end
      end

      # Whether each stub that the day still has was left.
      def over? = stops.empty? && @sheet.cards.any?

      # A key under which a phone remembers which of them it has logged.
      def key = "#{@orchard.slug}:#{@sheet.day.iso8601}"

      private

      # What was left undone on the day is past, though it stays in the plan.
      def cards = @cards ||= @sheet.cards.reject { |card| card.row.undone_on == @sheet.day }

      def scion_mm(card)
        card.given.first&.diameter_mm&.to_f || @orchard.rulebook.value("reckoning.wood.pencil").to_f
      end

      def figures(card)
        Core::Graft::Figures.of(card.row.technique, stub_mm: card.place.stock_mm, scion_mm: scion_mm(card),
          bark_mm: Records::CoreInputs.bark(card.limb, card.place.stock_mm), rulebook: @orchard.rulebook)
      end

      # The next stub, how far it is and whether a ladder goes with one.
      #
      # @return [Hash] +label+, +same+ (on the same tree), +metres+, +bearing_deg+ and +ladder+
      def way_on(card, following)
        east, north = %i[map_x map_y].map { |axis| following.tree[axis] - card.tree[axis] }
        { label: following.limb.label, same: following.tree.id == card.tree.id, metres: Math.hypot(east, north),
          bearing_deg: Math.atan2(east, north) * 180 / Math::PI % 360, ladder: following.cautions.include?("ladder") }
      end
    end
  end
end
