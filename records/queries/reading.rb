# frozen_string_literal: true

module Vestry
  module Records
    # Questions the stations ask of an orchard as a whole.
    module Reading
      module_function

      # Trees of an orchard in a state, as SQL over a dataset of them: trouble (a graft was lost
      # and not made again), grafted, planned, or open.
      #
      # @param within [Array<Integer>, nil] ids of the only trees it is asked of
      def in_state(orchard_id, dataset, state, within: nil)
        grafted = Limb.join(:grafts, limb_id: Sequel[:limbs][:id])
          .where(Sequel[:grafts][:hidden_at] => nil, Sequel[:grafts][:orchard_id] => orchard_id)
        grafted = grafted.where(Sequel[:limbs][:tree_id] => within) if within
        planned = Plan.where(orchard_id: orchard_id, superseded_at: nil, hidden_at: nil)
        case state
        when "trouble" then dataset.where(id: lost(orchard_id, within: within).select(Sequel[:limbs][:tree_id]))
        when "grafted" then dataset.where(id: grafted.select(Sequel[:limbs][:tree_id]))
        when "planned" then dataset.where(id: planned.select(:tree_id))
          .exclude(id: grafted.select(Sequel[:limbs][:tree_id]))
        when "open" then dataset.exclude(id: planned.select(:tree_id))
          .exclude(id: grafted.select(Sequel[:limbs][:tree_id]))
        else dataset
        end
      end

      LATEST = 2_000

      # The first tree, in walking order, of which no limb is surveyed: of one row, or among the latest
      # that were added.
      def bare_tree(orchard, row: nil)
        trees = Tree.in_sight.where(orchard_id: orchard.id)
        trees = row ? trees.where(row: row) : trees.order(Sequel.desc(:id)).limit(LATEST)
        limb = DB[:limbs].where(Sequel[:limbs][:tree_id] => Sequel[:trees][:id], hidden_at: nil).limit(1)
          .select(Sequel.as(1, :one))
        trees.from_self(alias: :trees).left_join(limb.lateral.as(:limb), true).where(Sequel[:limb][:one] => nil)
          .order(:row, :number).limit(1).select_all(:trees).first
      end

      # How many trees have a plan, and the first of those that have none, in walking order.
      def planned_trees(orchard)
        plans_in_use(orchard).join(:trees, id: :tree_id, hidden_at: nil).get { count(:tree_id).distinct }
      end
      def unplanned(orchard, most:)
        Tree.in_sight.where(orchard_id: orchard.id).exclude(id: plans_in_use(orchard).select(:tree_id))
          .order(:row, :number).limit(most).all
      end
      def plans_in_use(orchard) = Plan.where(Sequel[:plans][:orchard_id] => orchard.id, superseded_at: nil)

      # The state of each of these trees.
      def tree_states(orchard_id, ids)
        states = Hash.new("open")
        Plan.where(orchard_id: orchard_id, superseded_at: nil, hidden_at: nil, tree_id: ids).select_map(:tree_id)
          .each do |id|
          states[id] = "planned"
        end
        latest_grafts(orchard_id, within: ids).group(Sequel[:limbs][:tree_id])
          .select_map([Sequel[:limbs][:tree_id], Sequel.function(:bool_or,
                                                                 GraftOutcomeSql.lost(as: :latest)).as(:lost)])
                                              .each { |id, lost| states[id] = lost ? "trouble" : "grafted" }
        states
      end

      # Limbs whose latest graft was lost.
      def lost(orchard_id, within: nil)
        latest_grafts(orchard_id, within: within).where(GraftOutcomeSql.lost(as: :latest))
      end

      # Limbs that were ever grafted, each with the last word on its latest graft.
      def latest_grafts(orchard_id, within: nil)
        latest = DB[:grafts].where(Sequel[:grafts][:limb_id] => Sequel[:limbs][:id], hidden_at: nil)
          .order(Sequel.desc(:grafted_on), Sequel.desc(:id)).limit(1).select(:id, :lost_on)
        limbs = DB[:limbs].where(Sequel[:limbs][:orchard_id] => orchard_id)
        limbs = limbs.where(tree_id: within) if within
        GraftOutcomeSql.beside(limbs.cross_join(latest.lateral.as(:latest)), as: :latest)
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

      # The days of a span on which something was grafted.
      def grafting_days(orchard, span)
        LooseIndexScan.values(Graft.in_sight.where(orchard_id: orchard.id, grafted_on: span), :grafted_on)
      end

      # The seasons in which something was grafted, the latest first.
      def grafted_seasons(orchard)
        LooseIndexScan.values(Graft.in_sight.where(orchard_id: orchard.id), :grafted_on)
          .map { |day| orchard.season.name_of(day) }.uniq.sort.reverse
      end

      # Planned limbs to be worked in a season or left over from an earlier one, with no living graft.
      def waiting_stubs(orchard, season)
        to_do(orchard).where(role: TreePlan::WORKED).where(Sequel[:plan_limbs][:season] <= season)
      end

      # Planned limbs to be worked in just this season.
      def stubs_of(orchard, season)
        to_do(orchard).where(role: TreePlan::WORKED, Sequel[:plan_limbs][:season] => season)
      end

      # Everything to be sawn for a season: limbs lifted and headed back, and those to be worked with a
      # place to cut.
      def cut_list(orchard, season)
        to_do(orchard).where(Sequel[:plan_limbs][:season] => season)
          .where(Sequel.|({ role: %w[lift renew] }, Sequel.&({ role: %w[work backup later] }, Sequel.~(cut_mm: nil))))
      end

      # Rows of plans in use whose limbs carry no living graft, in walking order.
      def to_do(orchard) = in_use(orchard).exclude(standing_graft(orchard))

      # Rows with how many trees stand in each, and how many of those have a plan.
      #
      # @return [Array<Hash>] +row+, +trees+, +planned+
      def row_counts(orchard)
        standing = Tree.in_sight.where(Sequel[:trees][:orchard_id] => orchard.id).unordered
        planned = standing.join(:plans, tree_id: Sequel[:trees][:id], superseded_at: nil)
          .where(Sequel[:plans][:hidden_at] => nil).group_and_count(:row).as_hash(:row, :count)
        standing.group_and_count(:row).order(:row).limit(400).map do |each|
          { row: each[:row], trees: each[:count], planned: planned.fetch(each[:row], 0) }
        end
      end

      # Trees of an orchard or of one row, a page at a time, and one more where there are more.
      def trees_page(orchard, row:, page:, size:)
        trees = Tree.in_sight.where(orchard_id: orchard.id)
        trees = trees.where(row: row) if row
        trees.order(:row, :number).limit(size + 1).offset((page - 1) * size).all
      end

      # The plans in use of some trees, by tree.
      def plans_of(orchard, trees)
        Plan.in_sight.where(orchard_id: orchard.id, tree_id: trees.map(&:id), superseded_at: nil)
          .eager(plan_limbs: :variety).all.to_h do |plan|
          [plan.tree_id, plan]
        end
      end

      # Grafts, the latest first; those of one day where it is given.
      def grafts(orchard, on: nil, most: 500)
        made = Graft.in_sight.where(orchard_id: orchard.id).order(Sequel.desc(:grafted_on), Sequel.desc(:id))
          .limit(most)
        (on ? made.where(grafted_on: on) : made).eager(:variety, limb: :tree).all
      end

      # Where a variety stands or is planned: trees that carry it, limbs grafted with it, limbs to be.
      def where_stands(variety)
        grafts = Graft.in_sight.where(Sequel[:grafts][:orchard_id] => variety.orchard_id,
                                      Sequel[:grafts][:variety_id] => variety.id).join(:limbs, id: :limb_id,
                                        gone_on: nil)
        { trees: Tree.in_sight.where(orchard_id: variety.orchard_id, variety_id: variety.id).count,
          grafts: grafts.count,
          planned: in_use(variety.orchard).where(Sequel[:plan_limbs][:variety_id] => variety.id).unordered.count,
          promises: WoodPromise.in_sight.where(orchard_id: variety.orchard_id, variety_id: variety.id)
            .order(Sequel.desc(:season), :id).limit(20).all }
      end

      # Rows of plans in use, of limbs that still stand.
      def in_use(orchard)
        PlanLimb.in_sight.where(Sequel[:plan_limbs][:orchard_id] => orchard.id)
                .join(:plans, id: :plan_id, superseded_at: nil)
                  .join(:limbs, id: Sequel[:plan_limbs][:limb_id], gone_on: nil, hidden_at: nil)
                .join(:trees, id: Sequel[:limbs][:tree_id], hidden_at: nil)
                .order(Sequel[:trees][:row], Sequel[:trees][:number], Sequel[:limbs][:tag]).select_all(:plan_limbs)
      end

      # Changes to facts, newest first, each with whether its row is out of sight now.
      def history(orchard, kind: nil, row: nil, before: nil, limit: 50)
        rows = DB[:history].where(orchard_id: orchard.id)
        rows = rows.where(table_name: kind) if kind
        rows = rows.where(row_id: row) if row&.between?(1, 2_147_483_647)
        rows = rows.where { id < before } if before&.between?(1, 2**62)
        rows = rows.order(Sequel.desc(:id)).limit(limit).all
        hidden = rows.select { |each| each[:action] == "hide" && hides?(each[:table_name]) }
          .group_by { |each| each[:table_name] }.to_h do |table, all|
          [table, DB[table.to_sym].where(id: all.map { |each| each[:row_id] }).exclude(hidden_at: nil).select_map(:id)]
        end
        rows.each do |each|
          each[:hidden_now] = each[:action] == "hide" && hidden.fetch(each[:table_name], []).include?(each[:row_id])
        end
      end

      # Whether rows of a table go out of sight; a file that was taken back does not.
      def hides?(table) = (facts = Archive::Tables.of(table)) && DB.schema(facts.table).to_h.key?(:hidden_at)

      # Everything that happened to a limb, in order.
      def story(limb)
        events = [{ on: limb.surveyed_on, kind: :surveyed, row: limb }]
        limb.grafts.each do |graft|
          events << { on: graft.grafted_on, kind: :grafted, row: graft }
          events.concat(graft.visits.map { |each| { on: each.seen_on, kind: :visited, row: each } })
          events.concat(graft.tasks_done.map { |each| { on: each.done_on, kind: :settled, row: each } })
          events.concat(graft.tallies.map { |each| { on: each.tallied_on, kind: :tallied, row: each } })
        end
        order = %i[surveyed grafted visited settled tallied]
        events.sort_by { |event| [event[:on], order.index(event[:kind]), event[:row].id] }
      end
    end
  end
end
