# frozen_string_literal: true

module Vestry
  module Deeds
    # Says what a tree's plan is for, and by which school it is made.
    module NamePlan
      # @return [Records::Plan]
      # @raise [Records::Missing] where there is no plan
      def self.call(tree, purpose:, school:, by:)
        plan = tree.plan or raise Records::Missing
        Ledger.change(plan, { purpose: purpose.to_s.strip[0, 200],
                              school: Core::Rulebook.shipped.school_names.include?(school) ? school : plan.school },
                      by: by)
      end
    end
  end
end
