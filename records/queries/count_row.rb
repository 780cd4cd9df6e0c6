# frozen_string_literal: true

module Vestry
  module Records
    # The grafts of a row to be counted in an autumn, in walking order: those that lived when last seen,
    # and those this autumn found dead. What an earlier count found to be a limb is counted by whoever likes to, and
    # asked for no more.
    class CountRow
      MOST = 1000
      # Trees to a page of rows, and the least rows there.
      TREES = 900
      ROWS = 6
      # Grafts to a page of one row.
      PAGE = 100
      # So many trees that are left are shown.
      MOST_TREES = 400
      Line = Struct.new(:id, :label, :counted, :limb, keyword_init: true) do
        def asked? = counted || !limb
      end

      attr_reader :name, :lines

      # What is stored of it follows from these, besides the orchard and the day.
      FROM = %w[trees limbs grafts observations tallies].freeze
      private_constant :FROM

      # The rows of a page with grafts in them, and how many of those are counted in the season that is counted.
      #
      # @return [Array<Hash>] +row+, +grafts+, +counted+
      def self.all(orchard, today, page: 1)
        season = orchard.season_to_count(today)
        Derived.fetch(orchard, "rows to count #{season}, #{page}", today, from: FROM) do |fresh|
          counted_rows(fresh, season, page)
        end
      end

      def self.counted_rows(orchard, season, page)
        told = Sequel[:told][:graft_id]
        of_page(orchard, season, page).where(Sequel.|(Sequel.~(told => nil), asked(orchard, season)))
          .group(Sequel[:trees][:row])
          .select(Sequel[:trees][:row], Sequel.function(:count, Sequel.lit("*")).as(:grafts),
                  Sequel.function(:count, told).as(:counted))
          .order(Sequel[:trees][:row]).all
      end

      # Standing grafts of a page's rows, beside what was counted of them this season.
      def self.of_page(orchard, season, page)
        counts = autumn_counts(orchard, season).select(:graft_id)
        standing(orchard, season).unordered.where(Sequel[:trees][:row] => names(orchard, page))
          .left_join(counts.as(:told), graft_id: Sequel[:grafts][:id])
      end

      # The day from which the grafts of the season that is counted are counted: growth has stopped.
      def self.opens_on(orchard, today) = orchard.count_opens(orchard.season_to_count(today))

      # What was counted of a season since its growth stopped: what was measured before is measured again.
      def self.autumn_counts(orchard, season)
        DB[:tallies].where(Sequel[:tallies][:orchard_id] => orchard.id, Sequel[:tallies][:hidden_at] => nil,
                           Sequel[:tallies][:season] => season)
          .where(Sequel[:tallies][:tallied_on] >= orchard.count_opens(season))
      end

      # Whether it is the time to: later it can be done, until buds swell, and nobody is sent to.
      def self.open?(orchard, today)
        from = opens_on(orchard, today)
        today.between?(from, from + orchard.rulebook.task("tally")["closes"])
      end

      # Trees with grafts that stand and are not counted in that season, the first few hundred.
      #
      # @return [Array<Integer>]
      def self.left_trees(orchard, today)
        season = orchard.season_to_count(today)
        Derived.fetch(orchard, "trees to count #{season}", today, from: FROM) { |fresh| uncounted_trees(fresh, season) }
      end

      def self.uncounted_trees(orchard, season)
        counted = autumn_counts(orchard, season).select(:graft_id)
        standing(orchard, season).unordered.exclude(Sequel[:grafts][:id] => counted).where(asked(orchard, season))
          .distinct.limit(MOST_TREES).select_map(Sequel[:trees][:id])
      end

      # Whether a graft is still to be counted in a season.
      def self.waits?(graft, season)
        autumn_counts(graft.orchard, season).where(graft_id: graft.id).empty? &&
          !standing(graft.orchard, season).unordered.where(Sequel[:grafts][:id] => graft.id)
          .where(asked(graft.orchard, season)).empty?
      end

      # How many pages of rows there are.
      def self.pages(orchard) = [(orchard.rows.size / per_page(orchard).to_f).ceil, 1].max
      def self.names(orchard, page)
        per_page(orchard).then { |rows| orchard.rows.slice((page - 1) * rows, rows) || [] }
      end

      # As many rows as have not too many trees together.
      def self.per_page(orchard)
        rows = orchard.rows.size
        return ROWS if rows <= ROWS

        [TREES * rows / [orchard.tree_count, 1].max, ROWS].max
      end

      # The grafts that stand on limbs that stand, are not recorded as lost, and were made before a season was over.
      def self.standing(orchard, season)
        DB[:trees].where(Sequel[:trees][:orchard_id] => orchard.id, Sequel[:trees][:hidden_at] => nil)
          .join(:limbs, tree_id: :id, gone_on: nil, hidden_at: nil)
          .join(:grafts, limb_id: Sequel[:limbs][:id], hidden_at: nil, lost_on: nil)
          .where(Sequel[:grafts][:grafted_on] < orchard.season.span(season).end)
          .exclude(GraftsOfLimb.worked_over(orchard))
      end

      # Those that lived when last seen, and were no limb by an earlier count.
      def self.asked(orchard, season)
        Sequel.&(Sequel.~(GraftOutcomeSql.lost_of_many), Sequel.~(GraftOutcomeSql.limb(orchard.rulebook, season)))
      end
      private_class_method :asked, :of_page, :counted_rows, :uncounted_trees

      # @param season [Integer] the one to be counted
      def initialize(orchard, name, season)
        @orchard = orchard
        @name = name
        @season = season
        @lines = read
      end

      # Whether an earlier count found it to be a limb.
      def limb?(graft) = lines.any? { |each| each.id == graft.id && each.limb }
      def counted?(graft) = !Tally.counted(graft, @season).nil?
      def asked = lines.select(&:asked?)
      def left = asked.reject(&:counted)

      # In pages, for a row that is too long for one.
      def pages = [(lines.size / PAGE.to_f).ceil, 1].max

      # The grafts of a page, with what was counted of them.
      def page(number)
        ids = (lines.slice((number - 1) * PAGE, PAGE) || []).map(&:id)
        found = Graft.where(id: ids).eager(:variety, :tallies, limb: :tree).all.to_h { |graft| [graft.id, graft] }
        ids.map do |id|
          found.fetch(id).tap { |graft| graft.associations[:orchard] = graft.limb.associations[:orchard] = @orchard }
        end
      end

      # The line to count next down the row from a graft, else the first that was passed over.
      def after(graft)
        at = lines.index { |each| each.id == graft.id } || -1
        (lines.drop(at + 1) + lines.first(at + 1)).find { |each| each.asked? && !each.counted }
      end

      private

      # Those that are counted, or lived when last seen.
      def read
        rows = GraftOutcomeSql.beside(self.class.standing(@orchard, @season).where(Sequel[:trees][:row] => @name))
          .order(Sequel[:trees][:number], Sequel[:limbs][:tag], Sequel[:grafts][:id]).limit(MOST)
        rows.select(Sequel[:grafts][:id], Sequel[:trees][:number], Sequel[:limbs][:tag], *facts)
            .all.select { |row| row[:counted] || !row[:lost] }.map { |row| line(row) }
      end

      def facts
        [counted.as(:counted), GraftOutcomeSql.limb(@orchard.rulebook, @season).as(:limb),
         GraftOutcomeSql.lost.as(:lost)]
      end

      def line(row)
        Line.new(label: "#{@name}#{row[:number]} #{row[:tag]}", **row.slice(:id, :counted, :limb))
      end

      def counted
        self.class.autumn_counts(@orchard, @season).where(graft_id: Sequel[:grafts][:id]).select(1).exists
      end
    end
  end
end
