# frozen_string_literal: true

module Vestry
  module Records
    # Questions about the grafts of an orchard: when they were made, which stand, which were lost.
    module GraftQueries
      module_function

      # Limbs whose latest graft was lost.
      def lost(orchard_id, within: nil)
        latest_grafts(orchard_id, within: within).where(GraftOutcomeSql.lost(as: :latest))
      end

      # Limbs that were ever grafted, each with the last word on its latest graft.
      #
      # @param by [Date, nil] on those made by then alone
      def latest_grafts(orchard_id, within: nil, by: nil)
        made = DB[:grafts].where(Sequel[:grafts][:limb_id] => Sequel[:limbs][:id], hidden_at: nil)
        made = made.where(Sequel[:grafted_on] <= by) if by
        latest = made.order(nothing, Sequel.desc(:grafted_on), Sequel.desc(:id)).limit(1)
          .select(:id, :lost_on, :cut_mm, :technique, :variety_id)
        limbs = DB[:limbs].where(Sequel[:limbs][:orchard_id] => orchard_id)
        limbs = limbs.where(tree_id: within) if within
        GraftOutcomeSql.beside(limbs.cross_join(latest.lateral.as(:latest)), as: :latest)
      end

      # What was set into a side, was lost, and so came to nothing: Graft#nothing?, as SQL.
      def nothing
        Sequel.&(Sequel.~(lost_on: nil), Sequel.~(technique: heading))
      end

      # The methods for which a head is cut off.
      def heading = Core::Rulebook.shipped.method_names.select { |name| Core::Rulebook.shipped.heads?(name) }

      # Grafts that were made and are not lost: their limbs are not worked again.
      def standing_grafts(orchard)
        GraftOutcomeSql.beside(Graft.where(Sequel[:grafts][:hidden_at] => nil,
                                           Sequel[:grafts][:orchard_id] => orchard.id))
          .exclude(GraftOutcomeSql.lost)
      end
      # Whether one stands on the limb that is planned.
      def standing_graft(orchard)
        standing_grafts(orchard).where(Sequel[:grafts][:limb_id] => Sequel[:plan_limbs][:limb_id]).select(1).exists
      end

      # What the grafts that stand on some trees are of: the latest on each limb, where it was not lost.
      #
      # @param within [Array<Integer>, Sequel::Dataset] of trees
      # @return [Sequel::Dataset] +tree_id+ and +variety_id+, a row each
      def varieties_on(orchard_id, within:)
        latest_grafts(orchard_id, within: within).where(gone_on: nil).exclude(GraftOutcomeSql.lost(as: :latest))
          .select(Sequel[:limbs][:tree_id], Sequel[:latest][:variety_id])
      end

      # The first few trees on which grafts of a variety took that are old enough to be cut from, and stand.
      def trees_to_cut_from(orchard, variety_id, today, most:)
        old = standing_of(orchard, variety_id, today).where(GraftOutcomeSql.took)
          .where(Sequel[:grafts][:grafted_on] < HeadingLimbs.young_since(orchard, today))
        ids = old.limit(most * LIMBS_A_TREE).select_map(Sequel[:limbs][:tree_id]).uniq
        Tree.in_sight.where(id: ids.first(most)).order(:row, :number).all
      end

      # Grafts of a variety that live, the last on their limbs.
      def standing_of(orchard, variety_id, today)
        standing_grafts(orchard).where(Sequel[:grafts][:variety_id] => variety_id).exclude(worked_over(by: today))
          .join(:limbs, id: Sequel[:grafts][:limb_id], gone_on: nil, hidden_at: nil)
      end
      # What else lives on a limb beside one of its grafts.
      #
      # @return [Array<Graft>]
      def beside(graft, today)
        return [] if graft.limb.grafts.size < 2

        standing_grafts(graft.orchard).where(Sequel[:grafts][:limb_id] => graft.limb_id)
          .exclude(Sequel[:grafts][:id] => graft.id).exclude(worked_over(by: today)).order(:grafted_on, :id)
          .select_all(:grafts).all
      end

      # So many grafts are looked at for each tree that is wanted.
      LIMBS_A_TREE = 10
      private_constant :LIMBS_A_TREE

      # Whether the limb of one was cut anew for a later graft; of two on a day the one that was written down later is.
      # One that is set beside it, on the same stub and in the same season, or lower down in the side, leaves it
      # standing.
      #
      # @param by [Date, nil] later ones are not asked about
      def worked_over(by: nil)
        mine, later = Sequel[:grafts], Sequel[:later]
        beside = Sequel.&(Sequel.function(:abs, later[:cut_mm] - mine[:cut_mm]) <= 1,
                          later[:grafted_on] - mine[:grafted_on] <= BESIDE_DAYS)
        stands = Sequel.case([[{ mine[:technique] => heading }, beside]], later[:cut_mm] >= mine[:cut_mm])
        made_after(by).where(later[:technique] => heading)
          .exclude(Sequel.function(:coalesce, stands, false)).select(1).exists
      end
      # Two on one stub within so many days stand beside each other: later it is the same one, made again.
      BESIDE_DAYS = 120
      private_constant :BESIDE_DAYS

      # Whether any later graft was made on its limb.
      def made_again(by:) = made_after(by).select(1).exists

      def made_after(by)
        mine, later = Sequel[:grafts], Sequel[:later]
        same_day = Sequel.&({ later[:grafted_on] => mine[:grafted_on] }, later[:id] > mine[:id])
        made = DB[mine.as(:later)].where(later[:limb_id] => mine[:limb_id], later[:hidden_at] => nil)
        made = made.where(later[:grafted_on] <= by) if by
        made.where(Sequel.|(later[:grafted_on] > mine[:grafted_on], same_day))
      end
      private_class_method :made_after, :nothing, :heading

      # Grafts that were made in a span and by a day, with what became of them.
      def of_span(orchard, span, by:, most: 5000)
        Graft.in_sight.where(orchard_id: orchard.id, grafted_on: span).where(Sequel[:grafted_on] <= by)
          .eager(:variety, :tallies, :visits, limb: :tree).limit(most).all
          .each { |graft| graft.associations[:orchard] = orchard }
      end

      # The days of a span on which something was grafted.
      def grafting_days(orchard, span)
        LooseIndexScan.values(Graft.in_sight.where(orchard_id: orchard.id, grafted_on: span), :grafted_on)
      end

      # The seasons in which something was grafted, the latest first.
      def grafted_seasons(orchard)
        LooseIndexScan.values(Graft.in_sight.where(orchard_id: orchard.id), :grafted_on)
          .map { |day| orchard.season.name_of(day) }.uniq.sort.reverse
      end

      # Grafts, the latest first; those of one day where it is given.
      def grafts(orchard, on: nil, most: 500)
        made = Graft.in_sight.where(orchard_id: orchard.id).order(Sequel.desc(:grafted_on), Sequel.desc(:id))
          .limit(most)
        (on ? made.where(grafted_on: on) : made).eager(:variety, limb: :tree).all
      end

      # How many limbs such grafts make.
      def limbs_of(variety, today)
        Derived.fetch(variety.orchard, "limbs of #{variety.id}", today,
                      from: %w[trees limbs grafts observations tallies]) do
          { count: standing_of(variety.orchard, variety.id, today).count }
        end[:count]
      end

      # Where a variety stands or is planned: trees that carry it, limbs grafted with it that live, limbs to be.
      def where_stands(variety, today)
        { trees: Tree.in_sight.where(orchard_id: variety.orchard_id, variety_id: variety.id).count,
          grafts: limbs_of(variety, today),
          planned: PlanQueries.to_do(variety.orchard).where(role: TreePlan::WORKED,
                                                            Sequel[:plan_limbs][:variety_id] => variety.id)
            .unordered.count,
          promises: WoodPromise.in_sight.where(orchard_id: variety.orchard_id, variety_id: variety.id)
            .order(Sequel.desc(:season), :id).limit(20).all }
      end
    end
  end
end
