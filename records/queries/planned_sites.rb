# frozen_string_literal: true

module Vestry
  module Records
    # Bare stretches that plans in use want filled, in walking order.
    module PlannedSites
      # How many of them the day's page lists.
      MOST = 200

      module_function

      # Those of a season or left over from an earlier one.
      #
      # @param trees [Array<Integer>, nil] those of these alone
      # @return [Array<PlanSite>] each with its site, that site's tree, and its variety
      def waiting(orchard, season, trees: nil)
        rows = of(orchard).where(Sequel[:plan_sites][:season] <= season).limit(MOST)
        read(orchard, trees ? rows.where(Sequel[:sites][:tree_id] => trees) : rows)
      end

      # Those that want wood of a season: its own, and while it is planned those left over from earlier ones. When the
      # bark of its season has closed, what was not filled waits for the next.
      def wanting_wood(orchard, season, today) = wanting(orchard, season, today).all

      # What a plan in use says of one; nil where it says nothing.
      def planned(site) = of(site.orchard).first(site_id: site.id)

      # How many sticks they want of each variety.
      #
      # @return [Hash{Integer=>Integer}]
      def sticks(orchard, season, today)
        wanting(orchard, season, today).unordered.group(Sequel[:plan_sites][:variety_id])
          .select_hash(Sequel[:plan_sites][:variety_id],
                       Sequel.function(:sum, Sequel[:plan_sites][:sticks]).as(:sticks))
      end

      def of(orchard)
        PlanSite.in_sight.where(Sequel[:plan_sites][:orchard_id] => orchard.id).select_all(:plan_sites)
          .join(:plans, { id: :plan_id, superseded_at: nil }).join(:sites, { id: Sequel[:plan_sites][:site_id],
                                                                              hidden_at: nil })
          .join(:trees, { id: Sequel[:sites][:tree_id], hidden_at: nil })
          .left_join(:limbs, { id: Sequel[:sites][:limb_id] }).where(Site::STANDS)
          .order(Sequel[:trees][:row], Sequel[:trees][:number], Sequel[:sites][:tag])
          .eager(:variety, site: %i[tree limb])
      end

      # Whether a season is over for them, is planned for, or comes later: -1, 0 or 1.
      def turn(orchard, season, today) = season <=> orchard.season_to_plan(today)

      def wanting(orchard, season, today)
        of_season = Sequel[:plan_sites][:season]
        case turn(orchard, season, today)
        when -1 then of(orchard).where(false)
        when 0 then of(orchard).where(of_season <= season)
        else of(orchard).where(of_season => season)
        end
      end

      # What is cut off below any of them is read once for all.
      def read(orchard, rows)
        found, decided = rows.all, nil
        of_trees = -> { decided ||= PlanQueries.decided_on(orchard, found.map { |row| row.site.tree_id }.uniq) }
        found.each { |row| row.decided = of_trees }
      end
      private_class_method :of, :wanting, :read
    end
  end
end
