# frozen_string_literal: true

module Vestry
  module Records
    # Planned limbs of a season in walking order, for a page that shows them all.
    class PlannedRows
      # How many of a kind are looked at.
      KINDS = { stubs: 5000, waiting: 500, cuts: 1000 }.freeze

      # @param kind [Symbol] stubs: to be worked in just this season; waiting: in it or an earlier one;
      #   cuts: everything to be sawn. None carries a living graft.
      # @param variety [Integer, nil] those alone that are to become it
      def initialize(orchard, kind, season, variety: nil)
        @orchard = orchard
        @kind = kind
        @season = season
        @variety = variety
      end

      # @return [Array<PlanLimb>] each with its variety, its limb, and that limb's tree
      def rows = @rows ||= read(set)

      # Those alone of some.
      #
      # @param ids [Array<Integer>]
      def of(ids)
        return rows.select { |row| ids.include?(row.id) } if @rows

        read(set.where(Sequel[:plan_limbs][:id] => ids))
      end

      # Whether there may be more of them than are looked at.
      def cut_off? = rows.size >= KINDS.fetch(@kind)

      private

      def read(of)
        rows = of.limit(KINDS.fetch(@kind)).eager(:variety, limb: [:tree, { parent: { parent: :parent } }, *beside]).all
        tell_many(rows)
        @kind == :cuts ? rows.reject { |row| TreePlan::WORKED.include?(row.role) && row.comes_off_with } : rows
      end

      # What each would ask alone is read for all of them, once it is asked.
      def tell_many(rows)
        below = decided = nil
        rows.each do |row|
          row.cut_below = -> { (below ||= PlanQueries.coming_off(@orchard, rows))[row.id] }
          row.decided = -> { decided ||= PlanQueries.decided_on(@orchard, lifted_trees(rows)) }
          # A list of cuts is of what is still to be sawn.
          row.not_sawn if @kind == :cuts
        end
      end

      # What a list of cuts tells besides: what leaves its limbs below.
      def beside = @kind == :cuts ? [{ children: { grafts: %i[visits tallies] } }] : []

      def lifted_trees(rows) = rows.select { |row| row.role == "lift" }.map { |row| row.limb.tree_id }.uniq

      def set = @variety ? of_kind.where(Sequel[:plan_limbs][:variety_id] => @variety) : of_kind

      def of_kind
        case @kind
        when :stubs then PlanQueries.stubs_of(@orchard, @season)
        when :waiting then PlanQueries.waiting_stubs(@orchard, @season)
        when :cuts then PlanQueries.cut_list(@orchard, @season)
        end
      end
    end
  end
end
