# frozen_string_literal: true

module Vestry
  module Records
    # The grafts of a row to be counted in an autumn, in walking order: those that lived when last seen,
    # and those this autumn found dead.
    class CountRow
      MOST = 1000
      # Grafts to a page of one row.
      PAGE = 100
      # Of each graft's visits only the last that says how it stands: all that is asked of them here.
      LAST_WORD = lambda do |visits|
        visits.where(Sequel.|(Sequel.~(verdict: nil), Sequel.~(buds: nil))).distinct(:graft_id).order(:graft_id, Sequel.desc(:seen_on), Sequel.desc(:id))
      end
      # Rows to a page.
      ROWS = 25

      attr_reader :name, :grafts

      # The rows of a page with grafts in them, and how many of those are counted this season.
      #
      # @return [Array<Hash>] +row+, +grafts+, +counted+
      def self.all(orchard, season, page: 1)
        told = DB[:tallies].where(orchard_id: orchard.id, hidden_at: nil, season: season).select(:graft_id)
        standing(orchard).unordered.where(Sequel[:trees][:row] => names(orchard, page)).left_join(told.as(:told), graft_id: Sequel[:grafts][:id])
                         .group(Sequel[:trees][:row]).select(Sequel[:trees][:row], Sequel.function(:count, Sequel.lit("*")).as(:grafts), Sequel.function(:count, Sequel[:told][:graft_id]).as(:counted)).order(Sequel[:trees][:row]).naked.all
      end

      # How many pages of rows there are.
      def self.pages(orchard) = [(orchard.rows.size / ROWS.to_f).ceil, 1].max
      def self.names(orchard, page) = orchard.rows.slice((page - 1) * ROWS, ROWS) || []

      def self.of(orchard, row, season) = new(row, standing(orchard).where(Sequel[:trees][:row] => row).order(Sequel[:trees][:number], Sequel[:limbs][:tag]).limit(MOST).eager(:variety, :tallies, limb: :tree, observations: LAST_WORD).all, season, orchard)

      # The latest graft on each standing limb that is not recorded as lost.
      def self.standing(orchard)
        later = DB[Sequel[:grafts].as(:g)].where(Sequel[:g][:limb_id] => Sequel[:grafts][:limb_id], Sequel[:g][:hidden_at] => nil)
                                          .where(Sequel.|(Sequel[:g][:grafted_on] > Sequel[:grafts][:grafted_on], Sequel.&({ Sequel[:g][:grafted_on] => Sequel[:grafts][:grafted_on] }, Sequel[:g][:id] > Sequel[:grafts][:id])))
        Graft.in_sight.where(Sequel[:grafts][:orchard_id] => orchard.id, lost_on: nil).join(:limbs, id: :limb_id, gone_on: nil, hidden_at: nil).join(:trees, id: Sequel[:limbs][:tree_id], hidden_at: nil)
             .exclude(later.select(1).exists).select_all(:grafts)
      end
      private_class_method :standing

      def initialize(name, grafts, season, orchard)
        @name = name
        @season = season
        grafts.each { |graft| graft.associations[:orchard] = graft.limb.associations[:orchard] = orchard }
        @grafts = grafts.select { |graft| counted?(graft) || graft.fate != "lost" }
      end

      # In pages, for a row that is too long for one.
      def page(number) = grafts.slice((number - 1) * PAGE, PAGE) || []
      def pages = [(grafts.size / PAGE.to_f).ceil, 1].max

      def counted?(graft) = graft.tallies.any? { |tally| tally.season == @season }
      def left = grafts.reject { |graft| counted?(graft) }

      # The next one to count down the row from here, else the first that was passed over.
      def after(graft)
        at = grafts.index { |each| each.id == graft.id } || -1
        (grafts.drop(at + 1) + grafts.first(at + 1)).find { |each| !counted?(each) }
      end
    end
  end
end
