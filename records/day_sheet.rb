# frozen_string_literal: true

module Vestry
  module Records
    # A crew's day: its stubs in walking order, each with its place, method, sticks and cautions, and
    # what the day uses up.
    class DaySheet
      Card = Struct.new(:row, :outlook, :given, :short, :cautions, :colour, keyword_init: true) do
        def limb = row.limb
        def tree = row.limb.tree
      end

      attr_reader :day

      def initialize(orchard, today, day)
        @orchard = orchard
        @today = today
        @day = day
      end

      # Trees as they are walked to, each with its cards.
      #
      # @return [Array<Array(Tree, Array<Card>)>]
      def trees = cards.group_by { |card| card.tree.id }.map { |id, all| [full[id], all] }

      def cards
        @cards ||= stubs.map { |stub| card(stub.row) }.sort_by { |each| [each.tree.row, each.tree.number, each.limb.tag] }
      end

      # What will not be done for want of time or weather, from the crew's plan.
      def planned? = !crew_day.nil?
      # By the forecast; nil where none is known.
      def verdict = crew_day&.known ? crew_day.verdict : nil
      def minutes = stubs.sum(&:minutes)

      # @return [Array<Hash>] +item+, +amount+, +unit+
      def materials
        return [] if cards.empty?

        Core::Graft::Materials.reckon({ school: @orchard.school, stubs: cards.map { |card| { method: card.row.technique, stub_mm: card.outlook.stock_mm, sticks: card.row.sticks || 1 } } }, rulebook: @orchard.rulebook)[:items]
      end

      # The bundles to carry, with how many sticks of each.
      def bundles
        cards.flat_map(&:given).group_by { |each| each.stick.bundle }.map { |bundle, all| [bundle, all.size] }.sort_by { |bundle, _| bundle.id }
      end

      private

      def plan = @plan ||= CrewPlan.new(@orchard, @today)
      def crew_day = plan.days.find { |each| each.date == @day }

      # Those the crew's plan puts on this day; for a day it does not reach, all that are open then.
      def stubs = @stubs ||= crew_day ? crew_day.stubs : plan.windows.stubs.select { |stub| stub.window[:opens_on] <= @day && stub.window[:closes_on] >= @day }

      def board = @board ||= MatchBoard.new(@orchard, plan.windows.season, @today).places.to_h { |place| [place.row.id, place] }

      # The day's trees alone, read with all their limbs.
      def full = @full ||= @orchard.trees_in_full(stubs.map { |stub| stub.row.limb.tree_id }.uniq, drawn: true).to_h { |tree| [tree.id, tree] }

      def card(row)
        place = board[row.id]
        outlook = StubOutlook.new(row.limb, planned: row)
        Card.new(row: row, outlook: outlook, given: place ? place.given : [], short: place ? place.short : (row.sticks || 1), cautions: cautions(row, outlook), colour: colours(full[row.limb.tree_id])[row.variety_id])
      end

      def colours(tree)
        @tape ||= TapeColours.new(@orchard)
        (@colours ||= {})[tree.id] ||= @tape.of(tree)
      end

      def cautions(row, outlook)
        found = []
        found << "saw" if (outlook.stock_mm || 0) > @orchard.rulebook.value("reckoning.pace.heavy_diameter") || row.limb.damage || outlook.out_of_reach?
        found << "ladder" if outlook.ladder?
        found
      end
    end
  end
end
