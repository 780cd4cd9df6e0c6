# frozen_string_literal: true

module Vestry
  module Records
    # What was decided for a tree.
    class Plan < Sequel::Model(DB[:plans])
      include Row
      extend Known
      known(:school) { Core::Rulebook.shipped.school_names }
      many_to_one :orchard
      many_to_one :tree
      one_to_many :plan_limbs, conditions: { hidden_at: nil }
      one_to_many :plan_sites, conditions: { hidden_at: nil }
    end
  end
end
