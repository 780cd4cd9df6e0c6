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
        limbs = DB[:limbs].where(Sequel[:limbs][:orchard_id] => orchard_id)
        limbs = limbs.where(tree_id: within) if within
        GraftOutcomeSql.beside(limbs.cross_join(GraftsOfLimb.latest(by: by).lateral.as(:latest)), as: :latest)
      end

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

      # Limbs of which a graft was called dead on a day or later, whatever was said or made since.
      #
      # @param since [Date]
      # @return [Array<Integer>] their ids, in walking order
      def limbs_of_dead(orchard, since)
        DB.from(called_dead(orchard, since).as(:dead)).join(:grafts, id: :graft_id, hidden_at: nil)
          .join(:limbs, id: Sequel[:grafts][:limb_id], hidden_at: nil, gone_on: nil)
          .join(:trees, id: Sequel[:limbs][:tree_id], hidden_at: nil)
          .distinct.select(Sequel[:limbs][:id], :row, :number, :tag).from_self.order(:row, :number, :tag)
          .select_map(:id)
      end

      # Which of some limbs carry no living graft.
      #
      # @return [Array<Integer>]
      def without_living(orchard, limb_ids)
        return [] if limb_ids.empty?

        limb_ids - standing_grafts(orchard).where(Sequel[:grafts][:limb_id] => limb_ids)
          .select_map(Sequel[:grafts][:limb_id])
      end

      def called_dead(orchard, since)
        dead = { observations: [:seen_on, Sequel.|({ verdict: "failed" }, { buds: "dead" })],
                 tallies: [:tallied_on, { alive: false }] }.map do |words, (day, said)|
          DB[words].where(orchard_id: orchard.id, hidden_at: nil).where(said).where(Sequel[day] >= since)
            .select(:graft_id)
        end
        recorded = DB[:grafts].where(orchard_id: orchard.id).where(Sequel[:lost_on] >= since)
          .select(Sequel[:id].as(:graft_id))
        [*dead, recorded].reduce { |all, more| all.union(more, from_self: false) }
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

      # Grafts of a variety that live and stand.
      def standing_of(orchard, variety_id, today)
        standing_grafts(orchard).where(Sequel[:grafts][:variety_id] => variety_id)
          .exclude(GraftsOfLimb.worked_over(orchard, by: today))
          .join(:limbs, id: Sequel[:grafts][:limb_id], gone_on: nil, hidden_at: nil)
      end
      # So many grafts are looked at for each tree that is wanted.
      LIMBS_A_TREE = 10
      private_constant :LIMBS_A_TREE

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

      # What was grafted in a span of days, each kind of it once.
      #
      # @return [Array<Array(Integer, String, String, Integer)>] tree, its species, method and variety
      def kinds_made(orchard, days)
        Graft.in_sight.where(Sequel[:grafts][:orchard_id] => orchard.id, grafted_on: days)
          .join(:limbs, id: :limb_id).join(:trees, id: :tree_id).distinct
          .select_map([:tree_id, :species, :technique, Sequel[:grafts][:variety_id]])
      end

      # How many limbs such grafts make.
      def limbs_of(variety, today)
        Derived.fetch(variety.orchard, "limbs of #{variety.id}", today,
                      from: %w[trees limbs grafts observations tallies]) do
          { count: standing_of(variety.orchard, variety.id, today).distinct.select(Sequel[:grafts][:limb_id]).count }
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
