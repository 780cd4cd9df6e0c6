# frozen_string_literal: true

module Vestry
  module Records
    # Planned limbs of a season in walking order, for a page that shows them all: read once for everyone,
    # and anew when any of them, its limb or tree, what the limb grows from, or a variety is written.
    class PlannedRows
      # How many of a kind are looked at.
      KINDS = { stubs: 5000, waiting: 500, cuts: 1000 }.freeze
      ROWS = Kept.new(16)
      ROW = Kept.new(8000)

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
      def rows = @rows ||= ROWS.fetch([@orchard.cache_key, @kind, @season, @variety, mark]) { read.freeze }

      # Whether there may be more of them than are looked at.
      def cut_off? = rows.size >= KINDS.fetch(@kind)

      # What follows from them alone, worked out once for all who ask.
      #
      # @param what [Object] which of it
      # @yieldparam rows [Array<PlanLimb>]
      def told(what) = TOLD.fetch([@orchard.cache_key, @kind, @season, @variety, mark, what]) { yield rows }
      TOLD = Kept.new(64)

      # What they are known by: taken before they are read, so that no change falls between.
      def mark
        @mark ||= Mark.asked(@orchard.cache_key, @kind, @season, @variety) do
          DB[:planned].with(:planned, planned, materialized: true)
            .with_recursive(:up, grown_from(:planned), grown_from(:up), union_all: false)
                      .select(Mark.summed(:known), DB[:up].select(Mark.summed(:known)).as(:under),
                              DB[:varieties].where(orchard_id: @orchard.id).select(Mark.told(:varieties))
                                .as(:varieties))
        end
      end

      private

      # Those alone that are not known as they are now.
      def read
        beside = mark.split("/", 2).last
        known = Worded.ask(:planned_rows, @orchard.cache_key, @kind, @season, @variety) do
          set.limit(KINDS.fetch(@kind)).naked.select(Sequel[:plan_limbs][:id],
                                                     Mark.known_by(:plan_limbs, :limbs, :trees).as(:known))
        end
        Still.known(ROW, known.map { |row| [*row.values_at(:id, :known), beside] }) do |ids|
          PlanLimb.where(id: ids).eager(:variety, limb: [:tree, { parent: { parent: :parent } }]).all
        end
      end

      def set = @variety ? of_kind.where(Sequel[:plan_limbs][:variety_id] => @variety) : of_kind

      def of_kind
        case @kind
        when :stubs then Reading.stubs_of(@orchard, @season)
        when :waiting then Reading.waiting_stubs(@orchard, @season)
        when :cuts then Reading.cut_list(@orchard, @season)
        end
      end

      def planned
        set.unordered.naked.select(Mark.known_by(:plan_limbs, :limbs, :trees).as(:known), Sequel[:limbs][:parent_id])
      end

      def grown_from(above)
        DB[:limbs].join(above, parent_id: Sequel[:limbs][:id])
          .select(Mark.known_by(:limbs).as(:known), Sequel[:limbs][:parent_id])
      end
    end
  end
end
