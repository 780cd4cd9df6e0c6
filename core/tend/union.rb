# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # How much a young union bears. Estimates for deciding when to shorten, brace or strip.
      module Union
        module_function

        # @param weeks [Float] since the graft
        # @param hold [Float] share of the joint's section that is grown together
        # @return [Float] MPa: it nears that of sound wood over some years
        def strength(weeks, hold, rulebook)
          rulebook.value("reckoning.union.strength") * (1 - Math
            .exp(-weeks / rulebook.value("reckoning.union.weeks").to_f)) * hold
        end

        # How thick a young shoot is taken to be at its foot, by its length, until it is measured.
        #
        # @param length_mm [Float]
        # @return [Float] mm
        def foot(length_mm, rulebook)
          book = ->(key) { rulebook.value("reckoning.union.#{key}") }
          book["thinnest"] + book["thickens"] * [length_mm, book["thickens_until"]].min.to_f
        end

        # The bending moment that a round joint resists: strength pi d^3 / 32.
        #
        # @param strength_mpa [Float]
        # @param diameter_mm [Float]
        # @return [Float] N m
        def resisting(strength_mpa, diameter_mm) = strength_mpa * Math::PI * diameter_mm**3 / 32 / 1000

        # @param method [String]
        # @param closed [Float] share of the stub that has closed, for those that close over it
        # @return [Float] 0..1
        def hold(method, closed, rulebook)
          return 1.0 if rulebook.method_fact(method, "union") == "whole"

          least = rulebook.value("reckoning.union.bark_hold")
          least + (1 - least) * closed
        end
      end
    end
  end
end
