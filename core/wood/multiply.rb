# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # A scarce variety multiplied: the few sticks at hand cut to one bud each and set on strong limbs now, and the
      # shoots that they throw cut next winter.
      module Multiply
        # More seasons than this are no plan.
        MOST = 5

        module_function

        # Each stick gives as many pieces of one bud as its length holds; of them +take+ live, and each living one
        # throws reckoning.wood.shoots_a_bud shoots in its first summer, each cut into so many sticks.
        #
        # @param have [Integer] sticks at hand
        # @param wanted [Integer] sticks
        # @param take [Float] share of single buds that take
        # @return [Hash, nil] +pieces+ to set now, +seasons+, the sticks to be had in each winter from the next on, and
        #   +enough_in+, the first that is enough or nil; nil with no stick
        def of(have:, wanted:, take:, stick_mm:, sticks_a_shoot:, rulebook: Rulebook.shipped)
          return nil unless have.positive?

          pieces = pieces(stick_mm, rulebook)
          times = pieces * take * rulebook.value("reckoning.wood.shoots_a_bud") * [sticks_a_shoot, 1].max
          seasons = Array.new(MOST) { |n| (have * times**(n + 1)).floor }
          last = seasons.index { |sticks| sticks >= wanted } || (MOST - 1)
          { pieces: have * pieces, seasons: seasons.first(last + 1),
            enough_in: seasons[last] >= wanted ? last + 1 : nil }
        end

        # Pieces of one bud that a stick is cut to.
        def pieces(stick_mm, rulebook) = [(stick_mm / rulebook.value("reckoning.wood.one_bud").to_f).floor, 1].max
        private_class_method :pieces
      end
    end
  end
end
