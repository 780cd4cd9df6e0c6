# frozen_string_literal: true

module Vestry
  module Records
    # What was decided for a bare stretch: a graft set in its side.
    class PlanSite < Sequel::Model(DB[:plan_sites])
      include Row
      include Deferred
      extend Known
      known(:technique) { Core::Rulebook.shipped.method_names }
      many_to_one :plan
      many_to_one :site
      many_to_one :variety

      # What is to be cut off below it, limb or branch.
      #
      # @param planned [Hash{Integer=>PlanLimb}, nil] what is decided on its tree by limb, where that was read already
      # @return [PlanLimb, nil]
      def comes_off_with(planned = @decided&.call)
        site.limb && PlanLimb.cut_below_place(site.limb, site.at_mm, planned)
      end

      # Tells what is decided on its tree, where it was read for many at once.
      attr_writer :decided

      # What a plan says of a bare stretch.
      def self.of(plan, site) = first(plan_id: plan.id, site_id: site.id)
    end
  end
end
