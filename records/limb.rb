# frozen_string_literal: true

module Vestry
  module Records
    # A limb of a tree, as it was surveyed.
    class Limb < Sequel::Model(DB[:limbs])
      include Row
      many_to_one :orchard
      many_to_one :tree
      many_to_one :parent, class: self
      many_to_one :variety
      one_to_many :children, class: self, key: :parent_id
      one_to_many :grafts, order: %i[grafted_on id], conditions: { hidden_at: nil }
      one_to_many :plan_limbs

      def label = "#{tree.label} #{tag}"

      # The limb's place in the plan in use.
      def planned = tree.plan && plan_limbs_dataset.first(plan_id: tree.plan.id)

      # The graft that stands on it now: the latest.
      def graft = grafts.last

      # Height of the fork above the ground, in mm, by way of the limbs it grows from.
      def fork_height_mm
        return fork_mm.to_f unless parent

        parent.fork_height_mm + fork_mm.to_f * Math.sin(parent.rise_deg * Math::PI / 180)
      end
    end
  end
end
