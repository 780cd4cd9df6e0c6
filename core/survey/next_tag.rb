# frozen_string_literal: true

module Vestry
  module Core
    module Survey
      # The tag that follows those a tree has: the first letter that is free, then two letters; on a limb, its own tag
      # and the first number that is free.
      module NextTag
        LETTERS = [*"A".."Z", *"AA".."ZZ"].freeze

        module_function

        # @param taken [Array<String>] tags of the tree, in any writing
        # @param parent [String, nil] the tag of the limb it grows from
        # @return [String]
        def after(taken, parent: nil)
          used = taken.map(&:upcase)
          wanted = parent ? (1..).lazy.map { |number| "#{parent.upcase}#{number}" } : LETTERS.lazy
          wanted.find { |tag| !used.include?(tag) }
        end
      end
    end
  end
end
