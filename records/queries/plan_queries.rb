# frozen_string_literal: true

module Vestry
  module Records
    # Questions about plans in use, and what of them waits to be done.
    module PlanQueries
      module_function

      # How many trees have a plan, and the first of those that have none, in walking order: not those that are there
      # for their wood, nor those on whose every limb a graft was made.
      def planned_trees(orchard)
        plans_in_use(orchard).join(:trees, id: :tree_id, hidden_at: nil).get { count(:tree_id).distinct }
      end
      def unplanned(orchard, most:)
        found = []
        (0..).each do |step|
          trees = without_plan(orchard).order(:row, :number).limit(STEP, step * STEP).all
          whole = TreeQueries.grafted_whole(trees.map(&:id)).select_map(:tree_id).to_set
          found.concat(trees.reject { |tree| whole.include?(tree.id) })
          break if found.size >= most || trees.size < STEP
        end
        found.first(most)
      end

      # So many are looked through at a time.
      STEP = 100
      private_constant :STEP

      def unplanned_count(orchard, today)
        whole = Derived.fetch(orchard, "trees grafted whole", today, from: %w[trees limbs grafts plans]) do
          { count: TreeQueries.grafted_whole(without_plan(orchard).select(:id)).select_map(:tree_id).size }
        end
        without_plan(orchard).count - whole[:count]
      end

      def without_plan(orchard)
        Tree.in_sight.where(orchard_id: orchard.id).exclude(id: plans_in_use(orchard).select(:tree_id))
          .exclude(TreeQueries.giving_wood)
      end

      # Trees that are worked by another school than the orchard's, in walking order.
      #
      # @return [Array<Tree>]
      def of_own_school(orchard)
        own = plans_in_use(orchard).exclude(school: nil).exclude(school: orchard.school)
        Tree.in_sight.where(orchard_id: orchard.id, id: own.select(:tree_id)).order(:row, :number).all
      end
      def plans_in_use(orchard) = Plan.where(Sequel[:plans][:orchard_id] => orchard.id, superseded_at: nil)

      # Planned limbs to be worked in a season or left over from an earlier one, with no living graft.
      def waiting_stubs(orchard, season)
        to_do(orchard).where(role: TreePlan::WORKED).where(Sequel[:plan_limbs][:season] <= season)
      end

      # Planned limbs to be worked in just this season.
      def stubs_of(orchard, season)
        to_do(orchard).where(role: TreePlan::WORKED, Sequel[:plan_limbs][:season] => season)
      end

      # The same of the trees that are walked to before one.
      #
      # @return [Array<Array(String, Integer, Integer)>] technique, sticks and how many stubs
      def walked_before(tree, season)
        stubs_of(tree.orchard, season).exclude(technique: nil)
          .where(Sequel.lit("(trees.row, trees.number) < (?, ?)", tree.row, tree.number))
          .unordered.group(:technique, :sticks)
          .select_map([:technique, :sticks, Sequel.function(:count, Sequel[:plan_limbs][:id]).as(:stubs)])
      end

      # Everything to be sawn for a season: limbs lifted and headed back, and those to be worked with a
      # place to cut.
      def cut_list(orchard, season)
        to_do(orchard).where(Sequel[:plan_limbs][:season] => season).exclude(sawn(orchard, season))
          .where(Sequel.|({ role: %w[lift renew] }, Sequel.&({ role: %w[work backup later] }, place_stands,
                                                             Sequel.|({ technique: nil }, { technique: heading }))))
      end

      # Which of some rows stand on wood that is to be cut off: PlanLimb#comes_off_with says the same of one.
      #
      # @param rows [Array<PlanLimb>]
      # @return [Hash{Integer=>PlanLimb}] what is cut below each
      def coming_off(orchard, rows)
        branches = rows.select { |row| row.limb.parent_id }
        return {} if branches.empty?

        planned = decided_on(orchard, branches.map { |row| row.limb.tree_id }.uniq)
        branches.to_h { |row| [row.id, PlanLimb.cut_below(row.limb, planned)] }.compact
      end

      # What is decided on some trees, by limb.
      #
      # @return [Hash{Integer=>PlanLimb}]
      def decided_on(orchard, trees)
        plans = plans_in_use(orchard).where(tree_id: trees)
        PlanLimb.in_sight.where(plan_id: plans.select(Sequel[:plans][:id])).eager(limb: { grafts: %i[visits tallies] })
          .as_hash(:limb_id)
      end

      # PlanLimb#place_gone? says of one that it is not so.
      def place_stands
        at, long = Sequel[:plan_limbs][:cut_mm], Sequel[:limbs][:length_mm]
        sawn = Core::Rulebook.shipped.value("reckoning.cut.as_sawn")
        Sequel.&(Sequel.~(at => nil), Sequel.|({ long => nil }, at <= long + sawn))
      end

      # Limbs to be lifted or headed back in a season that were cut in it, or lost what was to be cut: PlanLimb#sawn_on
      # says the same of one.
      def sawn(orchard, season)
        row = Sequel[:plan_limbs]
        cut = LimbEvent.off_since(orchard.season.span(season).begin, limb: row[:limb_id], row: row[:id])
        Sequel.&({ row[:role] => %w[lift renew] }, cut.select(1).exists)
      end

      # Whether anything of it was, or was grafted.
      def sawn_any?(orchard, season)
        grafted_any?(orchard, season) || !of_season(orchard, season).where(sawn(orchard, season)).empty?
      end

      # Whether a limb that was planned for a season was grafted.
      def grafted_any?(orchard, season) = !of_season(orchard, season).where(grafted_since(orchard)).empty?

      def of_season(orchard, season)
        PlanLimb.in_sight.where(plan_id: plans_in_use(orchard).select(Sequel[:plans][:id]), season: season)
      end

      # The methods that cut the head off.
      def heading = Core::Rulebook.shipped.heading_methods

      # Rows of plans in use whose limbs carry no living graft, in walking order. One whose graft was lost is decided
      # again first.
      def to_do(orchard) = without_graft(orchard).exclude(grafted_since(orchard))

      # What is still to be worked or to come off on some trees in seasons after one of each: not what is headed back,
      # for its wood is wanted when it was to be.
      #
      # @param seasons [Hash{Integer=>Integer}] by tree
      # @return [Array<PlanLimb>]
      def after(orchard, seasons)
        to_do(orchard).where(role: [*TreePlan::WORKED, "lift"])
          .where(Sequel[:limbs][:tree_id] => seasons.keys).where(Sequel[:plan_limbs][:season] > seasons.values.min)
          .eager(limb: :tree).all.select { |row| row.season > seasons.fetch(row.limb.tree_id) && row.sawn_on.nil? }
      end

      # Those that someone took on.
      def taken_on(orchard, name) = to_do(orchard).where(hand: name).all

      # Limbs whose graft was lost this season or in the few before it, and of which nothing is decided since. What has
      # stood open for longer was let be, as by aftercare.
      #
      # @return [Array<Limb>] in walking order, each with its tree and its grafts
      def lost_undecided(orchard, today)
        ids = Derived.fetch(orchard, "lost undecided", today,
                            from: %w[trees limbs grafts observations tallies plans plan_limbs]) do
          { limbs: first_lost(orchard, today).map(&:id) }
        end[:limbs]
        with_grafts(ids)
      end

      # So many are named.
      MOST_LOST = 100
      private_constant :MOST_LOST

      def first_lost(orchard, today)
        years = orchard.rulebook.task("again-this-spring")["years"]
        since = orchard.season.span(orchard.season.name_of(today) - years).begin
        GraftQueries.limbs_of_dead(orchard, since).each_slice(2 * MOST_LOST).with_object([]) do |ids, found|
          found.concat(open_since(orchard, ids, since))
          break found.first(MOST_LOST) if found.size >= MOST_LOST
        end
      end

      # Those of some limbs whose graft was lost since a day, and of which nothing is decided since.
      def open_since(orchard, ids, since)
        open = GraftQueries.without_living(orchard, ids)
        with_grafts(open - decided_since_loss(orchard, open))
          .select { |limb| limb.graft&.outcome&.fetch(:lost_on)&.>=(since) }
      end

      def with_grafts(ids)
        Limb.where(id: ids).eager(:tree, grafts: %i[visits tallies]).all.sort_by { |limb| ids.index(limb.id) }
      end

      # Of which limbs, whose grafts were lost, something is decided since: PlanLimb#decided_since? says the same of
      # one.
      #
      # @return [Array<Integer>]
      def decided_since_loss(orchard, limb_ids)
        return [] if limb_ids.empty?

        to_do(orchard).where(Sequel[:plan_limbs][:limb_id] => limb_ids).select_map(Sequel[:plan_limbs][:limb_id])
      end

      # Why a row was moved with all that were not grafted in their time.
      MISSED = "not grafted by its last sensible day"

      # Rows that were moved for it these days and are still to be done, each with what it was before.
      #
      # @return [Hash{PlanLimb=>Hash}]
      def moved_for_missed(orchard)
        before = HistoryLog.last_changed_for(orchard.id, :plan_limbs, MISSED)
        return {} if before.empty?

        to_do(orchard).where(Sequel[:plan_limbs][:id] => before.keys).eager(limb: :tree).all
          .to_h { |row| [row, before.fetch(row.id).transform_keys(&:to_sym)] }
      end

      def without_graft(orchard) = in_use(orchard).exclude(GraftQueries.standing_graft(orchard))

      # Whether a graft was made in a row's season or later, and after the one that was lost when it was decided.
      # PlanLimb#failed? says the same of one.
      def grafted_since(orchard)
        start = orchard.season.span(0).begin
        DB[:grafts].where(Sequel.lit(<<~SQL, start.year, start.month)).select(1).exists
          plan_limbs.role IN ('work', 'later', 'backup')
            AND grafts.limb_id = plan_limbs.limb_id AND grafts.hidden_at IS NULL
            AND grafts.grafted_on >= make_date(plan_limbs.season + ?, ?, 1)
            AND (plan_limbs.after_graft_on IS NULL OR grafts.grafted_on > plan_limbs.after_graft_on)
        SQL
      end

      # The plans in use of some trees, by tree.
      def plans_of(orchard, trees)
        Plan.in_sight.where(orchard_id: orchard.id, tree_id: trees.map(&:id), superseded_at: nil)
          .eager(plan_limbs: :variety).all.to_h do |plan|
          [plan.tree_id, plan]
        end
      end

      # Rows of plans in use, of limbs that still stand.
      def in_use(orchard)
        PlanLimb.in_sight.where(Sequel[:plan_limbs][:orchard_id] => orchard.id)
                .join(:plans, id: :plan_id, superseded_at: nil)
                  .join(:limbs, id: Sequel[:plan_limbs][:limb_id], gone_on: nil, hidden_at: nil)
                .join(:trees, id: Sequel[:limbs][:tree_id], hidden_at: nil)
                .order(Sequel[:trees][:row], Sequel[:trees][:number], Sequel[:limbs][:tag]).select_all(:plan_limbs)
      end
    end
  end
end
