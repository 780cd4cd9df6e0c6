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
        (trees ? rows.where(Sequel[:sites][:tree_id] => trees) : rows).all
      end

      # Those of just one season.
      def of_season(orchard, season) = of(orchard).where(Sequel[:plan_sites][:season] => season).all

      # What a plan in use says of one; nil where it says nothing.
      def planned(site) = of(site.orchard).first(site_id: site.id)

      # How many sticks they want of each variety.
      #
      # @return [Hash{Integer=>Integer}]
      def sticks(orchard, season)
        of(orchard).where(Sequel[:plan_sites][:season] => season).unordered.group(Sequel[:plan_sites][:variety_id])
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
      private_class_method :of
    end
  end
end
