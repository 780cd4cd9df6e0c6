# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # Figures with their working, ready to be shown.
      module Workings
        include TreeWorkings
        include PlanWorkings
        include GraftWorkings
        include WoodWorkings
        include RepairWorkings

        def worked(working) = partial("working", working: working)
      end
    end
  end
end
