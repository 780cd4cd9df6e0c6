# frozen_string_literal: true

module Vestry
  module Records
    # Some trees as a drawing shows them, with their limbs and grafts, what is planned, and of visits and
    # counts what is drawn.
    class DrawnTrees
      SEEN = { visits: %i[id orchard_id graft_id seen_on buds verdict longest_shoot_mm],
               tallies: %i[id orchard_id graft_id season tallied_on alive growth_mm above_mm sticks_alive] }.freeze

      # @param ids [Array<Integer>]
      def initialize(orchard, ids)
        @orchard = orchard
        @ids = ids
      end

      # @return [Hash{Integer=>Tree}] without those out of sight
      def trees
        @trees ||= begin
          seen = SEEN.transform_values { |columns| ->(all) { all.select(*columns) } }
          @orchard.trees_dataset.where(id: @ids, hidden_at: nil)
            .eager(sites: :limb, plan: :plan_limbs, limbs: { grafts: seen }).as_hash(:id)
        end
      end
    end
  end
end
