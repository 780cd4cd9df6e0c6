# frozen_string_literal: true

module Vestry
  module Records
    # The last word on grafts, for many of them in one question: Core::Tally::GraftOutcome, as SQL. What the counts and
    # the visits of a graft said is gathered in one look along each index, and not searched for.
    module GraftOutcomeSql
      module_function

      # Puts the counts and the visits beside a dataset of grafts.
      #
      # @param grafts [Sequel::Dataset] with a table or alias that has a graft's +id+ and +lost_on+
      # @param as [Symbol] what that table is called
      # @param today [Date, nil] what came later is not heard
      def beside(grafts, as: :grafts, today: nil)
        grafts.cross_join(visits(as, today).lateral.as(:visited)).cross_join(counts(as, today).lateral.as(:counted))
      end

      # By whichever came later, the count or the visit; a loss that was recorded stands.
      def lost(as: :grafts, today: nil)
        recorded = today ? Sequel[as][:lost_on] <= today : Sequel.~(Sequel[as][:lost_on] => nil)
        later = Sequel.|({ Sequel[:visited][:on] => nil }, Sequel[:counted][:on] >= Sequel[:visited][:on])
        said = Sequel.case([[Sequel.&(Sequel.~(Sequel[:counted][:on] => nil), later),
                             Sequel.~(Sequel[:counted][:alive])]], Sequel[:visited][:dead])
        Sequel.function(:coalesce, Sequel.|(recorded, said), false)
      end

      # The same of one graft, asked for by itself: where there is only one, nothing is read.
      def lost_of(as: :grafts, today: nil)
        DB.from(visits(as, today).as(:visited), counts(as, today).as(:counted)).select(lost(as: as, today: today))
      end

      # The same of each of many, of which few were ever said to be dead: of the others nothing more is read.
      def lost_of_many(as: :grafts)
        dead = [DB[:observations].where(graft_id: Sequel[as][:id], hidden_at: nil)
          .where(Sequel.|({ verdict: "failed" }, { buds: "dead" })),
                DB[:tallies].where(graft_id: Sequel[as][:id], hidden_at: nil, alive: false)]
        said = dead.map { |words| words.select(1).exists }.reduce(:|)
        Sequel.case([[said, lost_of(as: as)]], Sequel.~(Sequel[as][:lost_on] => nil))
      end

      # Whether it was ever seen or counted as living: what took and was blown out later took, and was lost.
      def took = Sequel.function(:coalesce, Sequel.|(Sequel[:visited][:took], Sequel[:counted][:lived]), false)

      # Whether a count of an earlier season found it to be a limb: Core::Tally::Scaffold.since, as SQL.
      #
      # @param season [Integer]
      def limb(rulebook, season, as: :grafts)
        enough = rulebook.value("reckoning.scaffold.limb_share") - Core::Near::TOLERANCE
        wood = Sequel.function(:coalesce, :sticks_alive, 1) * Sequel[:above_mm] * Sequel[:above_mm]
        DB[:tallies].where(graft_id: Sequel[as][:id], hidden_at: nil).where { Sequel[:tallies][:season] < season }
          .where(wood >= Sequel[as][:stub_mm] * Sequel[as][:stub_mm] * enough).select(1).exists
      end

      # How many of some grafts took and stand, and how many were lost; the rest wait.
      #
      # @param grafts [Sequel::Dataset]
      # @return [Hash] +took+ and +lost+
      def tally(grafts)
        told = beside(DB.from(grafts.as(:grafts))).select(lost.as(:lost), took.as(:took)).from_self
        told.select(Sequel.function(:count).*.filter(:lost).as(:lost),
                    Sequel.function(:count).*.filter(Sequel.&(Sequel.~(:lost), :took)).as(:took)).first
      end

      def visits(as, today)
        seen = DB[:observations].where(Sequel[:observations][:graft_id] => Sequel[as][:id],
                                       Sequel[:observations][:hidden_at] => nil)
        seen = seen.where(Sequel[:seen_on] <= today) if today
        said = "verdict IS NOT NULL OR buds IS NOT NULL"
        seen.select(Sequel.function(:bool_or, { verdict: "took" }).as(:took), last("seen_on", "seen_on", said).as(:on),
                    last("coalesce(verdict = 'failed', verdict IS NULL AND buds = 'dead', false)", "seen_on", said)
                      .as(:dead))
      end

      def counts(as, today)
        told = DB[:tallies].where(Sequel[:tallies][:graft_id] => Sequel[as][:id], Sequel[:tallies][:hidden_at] => nil)
        told = told.where(Sequel[:tallied_on] <= today) if today
        told.select(Sequel.function(:bool_or, :alive).as(:lived),
                    *%w[alive sticks_alive].map { |name| last(name, "tallied_on").as(name.to_sym) },
                    last("tallied_on", "tallied_on").as(:on))
      end

      def last(what, by, where = "true")
        Sequel.lit("(array_agg(#{what} ORDER BY #{by} DESC, id DESC) FILTER (WHERE #{where}))[1]")
      end
      private_class_method :visits, :counts, :last
    end
  end
end
