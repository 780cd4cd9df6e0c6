# frozen_string_literal: true

module Vestry
  module Core
    module Wood
      # Which limbs to head this winter so that they throw the shoots that are wanted next winter.
      module Heading
        module_function

        # A limb headed by half throws about as many shoots as the rulebook says; a thicker one no more, and one that is
        # thinner than reckoning.wood.head_least shoots too thin to graft. Thick, well lit limbs within reach go first,
        # and no tree is asked for more than half of its limbs.
        #
        # @param limbs [Array<Hash>] that carry the variety: +id+, +tree+, +diameter_mm+, +fork_height_mm+, and
        #   +on_tree+, how many limbs its tree has
        # @param shoots [Integer] wanted
        # @param reach_mm [Numeric]
        # @return [Hash] +limbs+, ids in order, +shoots+, what they throw together, and +short+, what is still wanted
        def choose(limbs, shoots:, reach_mm:, rulebook: Rulebook.shipped)
          each_throws = rulebook.value("reckoning.wood.shoots_a_limb")
          wanted = Near.ceil(shoots / each_throws.to_f)
          taken = fit(limbs, reach_mm, rulebook).each_with_object([]) do |limb, all|
            of_tree = all.count { |other| other[:tree] == limb[:tree] }
            all << limb if all.size < wanted && of_tree < [limb[:on_tree] / 2, 1].max
          end
          thrown = taken.size * each_throws
          { limbs: taken.map { |limb| limb[:id] }, shoots: thrown, short: [shoots - thrown, 0].max }
        end

        # Where a limb is headed back when nobody says.
        #
        # @param length_mm [Numeric] of the limb
        # @return [Float] mm from its fork
        def at(length_mm, rulebook) = length_mm.to_f * rulebook.value("reckoning.wood.head_to")

        def fit(limbs, reach_mm, rulebook)
          least = rulebook.value("reckoning.wood.head_least")
          limbs.select { |limb| Near.at_least?(limb[:diameter_mm], least) }.sort_by do |limb|
            [limb[:fork_height_mm] > reach_mm ? 1 : 0, -limb[:diameter_mm], limb[:id]]
          end
        end
        private_class_method :fit
      end
    end
  end
end
