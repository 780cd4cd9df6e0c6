# frozen_string_literal: true

module Vestry
  module Core
    module Graft
      # How a graft is finished and followed: on a stub, in the side of what stays, a bud, or joined to a rooted plant.
      module GraftKind
        ALL = %w[stub side bud approach].freeze
        # The points of practice by which a graft is finished.
        FINISH = %w[wrap seal cover perch].freeze

        module_function

        # @param method [String]
        # @param headed [Boolean, nil] whether it stands on a stub, the limb above it cut off, on which some methods for
        #   a side can stand too; nil where it is as its method has it
        # @return [String]
        def of(method, headed: nil, rulebook: Rulebook.shipped)
          headed = rulebook.heads?(method) if headed.nil?
          return "bud" if rulebook.works_at?(method, "shoot")
          return "approach" if rulebook.method_fact(method, "donor")

          rulebook.method_fact(method, "place") == "side" && !(headed && rulebook.method_fact(method, "also_at")) ?
            "side" : "stub"
        end

        # Whether one was set into a bare stretch, and so into no limb's place.
        #
        # @param cut_mm [Numeric, nil] at what place of its limb
        def filled?(method, cut_mm, rulebook = Rulebook.shipped)
          cut_mm.nil? && rulebook.site_methods.include?(method)
        end

        # Whether a practice point is decided for a graft of a kind: a bud has its tie and no wrap, seal or cover.
        #
        # @param point [String] a practice point
        def asks?(kind, point, rulebook = Rulebook.shipped)
          kinds = rulebook.book("schools").fetch("points").dig(point, "kinds")
          kinds.nil? || kinds.include?(kind)
        end

        # Those by which a graft of a method is finished.
        #
        # @return [Array<String>] some of FINISH
        def finishes(method, headed: nil, rulebook: Rulebook.shipped)
          kind = of(method, headed: headed, rulebook: rulebook)
          FINISH.select { |point| asks?(kind, point, rulebook) }
        end
      end
    end
  end
end
