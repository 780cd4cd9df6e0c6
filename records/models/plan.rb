# frozen_string_literal: true

module Vestry
  module Records
    # What was decided for a tree.
    class Plan < Sequel::Model(DB[:plans])
      include Row
      extend Known
      known(:school) { Core::Rulebook.shipped.school_names }
      # Why a tree is changed.
      REASONS = { "frost" => "frost takes its bloom", "disease" => "it is diseased here", "taste" => "taste",
                  "market" => "nobody wants it", "partner" => "a partner is wanted", "broken" => "a limb broke",
                  "unknown" => "nobody knows what it is" }.freeze
      # Those of some words that are reasons, as they are kept.
      def self.known_reasons(words) = Sequel.pg_jsonb(REASONS.keys & words)

      # Those that were said, in the order of REASONS.
      def known_reasons = REASONS.keys & reasons.to_a

      many_to_one :orchard
      many_to_one :tree
      one_to_many :plan_limbs, conditions: { hidden_at: nil }
      one_to_many :plan_sites, conditions: { hidden_at: nil }

      # The one of a number, while it is its tree's.
      def self.in_use(id) = in_sight.first(id: id, superseded_at: nil)

      # Whether anything of it was decided otherwise since it was begun.
      def changed_since_begun? = version > 1 || [*plan_limbs, *plan_sites].any? { |row| row.version > 1 }

      # What is planned for limbs that stand; those that came off have no part in the work any more.
      #
      # @param standing [Enumerable<Integer>] the limbs that stand
      def of_standing(standing) = plan_limbs.select { |row| standing.include?(row.limb_id) }

      # Whether a limb of it carries a graft of its time.
      def worked? = plan_limbs.any? { |row| PlanLimb.done_on?(row.limb) }
    end
  end
end
