# frozen_string_literal: true

module Vestry
  module Records
    # Several grafts of one limb: which of them stand, which the limb was cut anew for, and where it ends.
    module GraftsOfLimb
      MINE, LATER, MATE = Sequel[:grafts], Sequel[:later], Sequel[:mate]
      private_constant :MINE, :LATER, :MATE

      module_function

      # The graft of a limb, Limb#graft as SQL: beside a dataset of limbs.
      #
      # @param by [Date, nil] on those made by then alone
      def latest(by: nil)
        made = DB[:grafts].where(MINE[:limb_id] => Sequel[:limbs][:id], hidden_at: nil)
        made = made.where(Sequel[:grafted_on] <= by) if by
        made.order(set_aside(by), Sequel.desc(:grafted_on), Sequel.desc(:id)).limit(1)
          .select(:id, :lost_on, :variety_id, cut_off_at.as(:cut_off_at_mm))
      end

      # What else lives on a limb beside one of its grafts.
      #
      # @return [Array<Graft>]
      def beside(graft, today)
        return [] if graft.limb.grafts.size < 2

        GraftQueries.standing_grafts(graft.orchard).where(MINE[:limb_id] => graft.limb_id)
          .exclude(MINE[:id] => graft.id).exclude(worked_over(graft.orchard, by: today))
          .order(:grafted_on, :id).select_all(:grafts).all
      end

      # Whether the limb of one was cut anew for a later graft; of two on a day the one that was written down later is.
      # One that is set beside it, on the same stub and in the same season, or lower down in the side, leaves it
      # standing.
      #
      # @param by [Date, nil] later ones are not asked about
      def worked_over(_orchard, by: nil) = working_over(by).select(1).exists

      # On which day the limb of one was cut anew for a later graft.
      #
      # @return [Date, nil]
      def worked_over_on(graft, today)
        return if graft.limb.grafts.size < 2

        DB[:grafts].where(MINE[:id] => graft.id).get(working_over(today).select { min(LATER[:grafted_on]) })
      end

      def working_over(by)
        stands = Sequel.case([[{ MINE[:technique] => heading }, one_stub(LATER)]],
                             LATER[:cut_mm] >= MINE[:cut_mm])
        made_after(by).where(LATER[:technique] => heading).exclude(Sequel.function(:coalesce, stands, false))
      end

      # Those of some grafts beside which others are on their limb, with all that is told of those.
      #
      # @param ids [Array<Integer>]
      # @return [Array<Graft>]
      def several(ids)
        return [] if ids.empty?

        other = DB[MINE.as(:later)].where(LATER[:limb_id] => MINE[:limb_id], LATER[:hidden_at] => nil)
          .exclude(LATER[:id] => MINE[:id])
        Graft.where(MINE[:id] => ids).where(other.select(1).exists)
          .eager(:visits, :tallies, limb: { grafts: %i[visits tallies] }).all
      end

      # Where a limb ends in a stub, by its graft or by one that was made before it: Graft#cut_off_at_mm, as SQL.
      def cut_off_at = Sequel.case([[{ MINE[:technique] => heading }, MINE[:cut_mm]]], stub_before)

      # Whether no more than a snag stands above one: the head was cut off for it or since, or it sits so close below a
      # stub. Above a bud below a stub whose graft died stands the shoot that it is in.
      #
      # @param most [Numeric] how long a snag is, in mm
      def head_off(by, most)
        close = Sequel.function(:coalesce, stub_before - MINE[:cut_mm] <= most, false)
        close = Sequel.&(close, Sequel.|(Sequel.~(MINE[:technique] => Core::Rulebook.shipped.shoot_methods),
                                         living_stub(by)))
        Sequel.case([[{ MINE[:technique] => heading }, true]], Sequel.|(headings(by, most).select(1).exists, close))
      end

      # Graft#headings, as SQL.
      def headings(by, most)
        on, left = Sequel[:limb_events][:happened_on], Sequel[:limb_events][:left_mm]
        LimbEvent.dataset.where(Sequel[:limb_events][:limb_id] => MINE[:limb_id], hidden_at: nil,
                                kind: LimbEvent::SHORTER)
          .where((on >= MINE[:grafted_on]) & (on <= by) & (left >= MINE[:cut_mm]) & (left <= MINE[:cut_mm] + most))
      end

      # Graft#set_aside?, as SQL, in a look at all grafts of one limb.
      def set_aside(by)
        several = Sequel.function(:count).*.over > 1
        Sequel.|(lost_in_side, Sequel.case([[several, Sequel.&(GraftOutcomeSql.lost_of(today: by), lives_beside(by))]],
                                           false))
      end

      # Whether another lives on the same stub.
      def lives_beside(by)
        mates = DB[MINE.as(:mate)].where(MATE[:limb_id] => MINE[:limb_id], MATE[:hidden_at] => nil,
                                         MATE[:technique] => heading, MINE[:technique] => heading)
          .exclude(MATE[:id] => MINE[:id]).where(one_stub(MATE))
        mates = mates.where(MATE[:grafted_on] <= by) if by
        mates.exclude(GraftOutcomeSql.lost_of(as: :mate, today: by)).select(1).exists
      end

      # Graft#on_stub_of?, as SQL, for two that cut the head off.
      def one_stub(other)
        mm, days = Graft.one_stub
        Sequel.&(Sequel.function(:abs, other[:cut_mm] - MINE[:cut_mm]) <= mm,
                 Sequel.function(:abs, other[:grafted_on] - MINE[:grafted_on]) <= days)
      end

      # What was set into a side and is recorded as lost: Graft#lost_in_side?, as SQL.
      def lost_in_side = Sequel.&(Sequel.~(lost_on: nil), Sequel.~(technique: heading))

      def heading = Core::Rulebook.shipped.heading_methods

      def made_after(by)
        same_day = Sequel.&({ LATER[:grafted_on] => MINE[:grafted_on] }, LATER[:id] > MINE[:id])
        made = DB[MINE.as(:later)].where(LATER[:limb_id] => MINE[:limb_id], LATER[:hidden_at] => nil)
        made = made.where(LATER[:grafted_on] <= by) if by
        made.where(Sequel.|(LATER[:grafted_on] > MINE[:grafted_on], same_day))
      end

      def stub_before = last_stub.select(Sequel[:stub][:cut_mm])

      # Whether what was set on that stub was not lost.
      def living_stub(by)
        last_stub.select(Sequel.~(GraftOutcomeSql.lost_of(as: :stub, today: by)))
      end

      def last_stub
        stub = Sequel[:stub]
        DB[MINE.as(:stub)].where(stub[:limb_id] => MINE[:limb_id], stub[:hidden_at] => nil,
                                 stub[:technique] => heading)
          .where(stub[:grafted_on] <= MINE[:grafted_on]).exclude(stub[:cut_mm] => nil)
          .order(Sequel.desc(stub[:grafted_on]), Sequel.desc(stub[:id])).limit(1)
      end
      private_class_method :cut_off_at, :working_over, :headings, :set_aside, :lives_beside, :one_stub, :lost_in_side,
                           :heading, :made_after, :stub_before, :living_stub, :last_stub
    end
  end
end
