# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # What becomes of shoots from the stock below a graft, by how the graft stands and when the school rubs them off.
      module StockShoots
        module_function

        # Of a dead graft two or three are kept, for buds or for another spring; by a school that lets them draw sap
        # past the graft they stay until it has taken; else they go. What a bud is set into feeds it until it grows, and
        # a plant's stock until its donor is off.
        #
        # @param state [String] one of GraftLife::STATES
        # @param practice [String] the choice at the point stock-shoots
        # @param kind [String] of Graft::GraftKind
        # @return [String] keep, leave or rub
        def verdict(state, practice, kind: "stub")
          return "keep" if state == "failed"

          state != "growing" && (practice == "after-take" || %w[bud approach].include?(kind)) ? "leave" : "rub"
        end
      end
    end
  end
end
