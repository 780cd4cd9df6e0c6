# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Which method is proposed for a limb, by how its wood suits where the limb would be cut for each.
      module ProposedMethod
        module_function

        # The first that suits the wood, short of the limb's tip, where a cut takes no head off; where none does, that
        # which suits best. What leaves the head on comes last, and that another size is wanted is no reason that a limb
        # cannot be cut.
        #
        # @param methods [Array<String>] in the order of the school
        # @param length_mm [Numeric] of the limb
        # @yieldparam method [String]
        # @yieldreturn [Hash] where it can be cut for that, see Survey::CutPoint
        # @return [String]
        def of(methods, length_mm:, rulebook:)
          tip = length_mm * (1 - rulebook.value("reckoning.cut.takes_least"))
          enough = rulebook.value("reckoning.cut.fits_from")
          in_order = methods.partition { |method| rulebook.heads?(method) }.flatten(1)
          tried = in_order.each_with_index.map do |method, place|
            fits = [*fit(method, yield(method), tip, rulebook), -place]
            return method if fits.first >= enough

            [fits, method]
          end
          tried.max_by(&:first).last
        end

        # @return [Array(Float, Float, Integer)] how well it suits short of the tip and anywhere, below 0 where it has
        #   no place, and whether that is for another reason than its size
        def fit(method, cut, tip, rulebook)
          return [-1.0, -1.0, cut[:conflict].include?("diameter") ? 0 : 1] unless cut[:feasible]

          fits = Methods.stock_fit(method, cut[:diameter_mm], rulebook)
          [cut[:at_mm] > tip ? 0.0 : fits, fits, 1]
        end
        private_class_method :fit
      end
    end
  end
end
