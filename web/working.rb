# frozen_string_literal: true

module Vestry
  module Web
    # The working behind a figure: the formula with this tree's numbers in it, and the rules
    # whose numbers it uses, and the school where it is a school that says so. One shape for all of them, so that one
    # partial shows them.
    Working = Struct.new(:value, :formula, :rules, :notes, :practice, :school, keyword_init: true) do
      # @param practice [String, nil] the practice point that says so
      # @param school [String, nil] whose choice is made there
      def self.of(value, formula, rules: [], notes: [], practice: nil, school: nil)
        new(value: value, formula: formula, rules: rules, notes: notes, practice: practice, school: school)
      end
    end
  end
end
