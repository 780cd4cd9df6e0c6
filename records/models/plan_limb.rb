# frozen_string_literal: true

module Vestry
  module Records
    # What was decided for one limb: its role, and if it is worked, where and how.
    class PlanLimb < Sequel::Model(DB[:plan_limbs])
      include Row
      extend Known
      known(:technique) { Core::Rulebook.shipped.stub_methods }
      ROLES = %w[work later backup nurse renew lift].freeze
      many_to_one :plan
      many_to_one :limb
      many_to_one :variety

      # Whether everything the grafting day needs has been chosen.
      def complete? = !(cut_mm.nil? || technique.nil? || variety_id.nil? || sticks.nil?)

      # What a plan says of a limb.
      def self.of(plan, limb) = first(plan_id: plan.id, limb_id: limb.id)

      # Many new ones at once: each names the same columns.
      #
      # @return [Array<Integer>] their numbers
      def self.add_all(rows)
        DB[:plan_limbs].multi_insert(rows.map { |row| row.merge(faces: Sequel.pg_array(row[:faces].to_a, :numeric)) },
                                     return: :primary_key)
      end
    end
  end
end
