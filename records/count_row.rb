# frozen_string_literal: true

module Vestry
  module Records
    # The grafts of a row to be counted in an autumn, in walking order: those that lived when last seen,
    # and those this autumn found dead.
    class CountRow
      MOST = 500

      attr_reader :name, :grafts

      # Every row with grafts in it, and how many of them are counted this season.
      #
      # @return [Array<Hash>] +row+, +grafts+, +counted+
      def self.all(orchard, season)
        standing = standing(orchard)
        counted = DB[:tallies].where(orchard_id: orchard.id, hidden_at: nil, season: season).select(:graft_id)
        totals = standing.unordered.group_and_count(Sequel[:trees][:row]).as_hash(:row, :count)
        done = standing.unordered.where(Sequel[:grafts][:id] => counted).group_and_count(Sequel[:trees][:row]).as_hash(:row, :count)
        totals.sort.map { |row, count| { row: row, grafts: count, counted: done.fetch(row, 0) } }
      end

      def self.of(orchard, row, season) = new(row, standing(orchard).where(Sequel[:trees][:row] => row).order(Sequel[:trees][:number], Sequel[:limbs][:tag]).limit(MOST).eager(:variety, :tallies, :observations, limb: :tree).all, season, orchard)

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
