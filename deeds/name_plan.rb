# frozen_string_literal: true

module Vestry
  module Deeds
    # Says what a tree's plan is for, why the tree is changed, and by which school it is made.
    module NamePlan
      # @param purpose [String, nil] nil leaves what was said
      # @param school [String, nil] its own; empty for the orchard's; nil, or none of them, leaves what was said
      # @param reasons [Array<String>, nil] of Records::Plan::REASONS; nil leaves what was said
      # @param worths [Hash] +old_worth+ and +new_worth+, 0 to 1 or nil; those that are to be changed
      # @return [Records::Plan]
      # @raise [Refused] where there is no plan
      # @param version [Integer, nil] of the plan, as the person saw it
      # @raise [Conflict] where somebody said otherwise since
      def self.call(tree, purpose:, school:, by:, reasons: nil, worths: {}, version: nil)
        own = { "" => nil, **Core::Rulebook.shipped.school_names.to_h { |name| [name, name] } }
        said = { purpose: purpose&.then { |words| words.to_s.strip[0, 200] },
                 reasons: reasons && Records::Plan.known_reasons(reasons) }.compact
        DB.transaction do
          tree.locked
          # A version that was begun meanwhile is the plan now.
          plan = tree.reload.plan or
            raise Refused, purpose: ["#{tree.label} has no plan yet: it is begun with the first role of a limb"]
          Ledger.change(plan, { **said, school: own.fetch(school, plan.school), **worths }, by: by, version: version)
        end
      end
    end
  end
end
