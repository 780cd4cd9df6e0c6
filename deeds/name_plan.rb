# frozen_string_literal: true

module Vestry
  module Deeds
    # Says what a tree's plan is for, why the tree is changed, and by which school it is made.
    module NamePlan
      # @param school [String, nil] its own; empty for the orchard's; nil, or none of them, leaves what was said
      # @param reasons [Array<String>, nil] of Records::Plan::REASONS; nil leaves what was said
      # @param worths [Hash] +old_worth+ and +new_worth+, 0 to 1 or nil; those that are to be changed
      # @return [Records::Plan]
      # @raise [Records::Missing] where there is no plan
      def self.call(tree, purpose:, school:, by:, reasons: nil, worths: {})
        plan = tree.plan or raise Records::Missing
        own = { "" => nil, **Core::Rulebook.shipped.school_names.to_h { |name| [name, name] } }
        said = reasons && { reasons: Records::Plan.known_reasons(reasons) }
        Ledger.change(plan, { purpose: purpose.to_s.strip[0, 200],
                              school: own.fetch(school, plan.school),
                              **said.to_h, **worths },
                      by: by)
      end
    end
  end
end
