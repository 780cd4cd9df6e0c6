# frozen_string_literal: true

module Vestry
  module Web
    # The Plan station's page of an orchard: the wood its season wants, and its trees a page at a time.
    class PlanView
      PAGE = 60
      # So many of those that were lost are named.
      OPEN = 24

      attr_reader :season, :page, :row

      # @param query [Hash] as Contracts::Query reads it
      def initialize(orchard, today, query)
        @orchard = orchard
        @today = today
        @season = orchard.season_to_plan(today)
        @row = query[:row]
        @page = query.fetch(:page, 1)
      end

      def supply = @supply ||= @orchard.wood_supply(season, @today)
      def rows = @rows ||= @orchard.rows

      def trees = found.first(PAGE)
      def more? = found.size > PAGE

      # Trees with limbs that are marked to be worked and still lack a cut, a method or a variety.
      #
      # @return [Array<Integer>]
      def unfinished
        @unfinished ||= waiting.reject(&:complete?).map { |row| row.limb.tree_id }.uniq
      end

      # Limbs whose graft was lost, and of which nothing is decided since.
      #
      # @return [Array<Records::Limb>]
      def open_again
        @open_again ||= @orchard.lost_undecided(@today).first(OPEN)
      end

      # Whether limbs of an earlier season wait.
      def left_over? = waiting.any? { |row| row.season < season }

      # What was moved these days for it was not grafted in time, and may be moved back.
      def moved_together = @moved_together ||= Records::PlanQueries.moved_for_missed(@orchard)

      def tree_label(id) = waiting.find { |row| row.limb.tree_id == id }.limb.tree.label

      def plans = @plans ||= Records::PlanQueries.plans_of(@orchard, trees)

      # What is planned for the limbs of a tree that stand.
      def planned(tree)
        @standing ||= Records::Limb.standing_ids(trees).to_set
        plans[tree.id]&.of_standing(@standing).to_a
      end

      private

      def waiting = @orchard.planned(:waiting, season).rows

      def found = @found ||= Records::TreeQueries.trees_page(@orchard, row: row, page: page, size: PAGE)
    end
  end
end
