# frozen_string_literal: true

module Vestry
  module Web
    # The working behind a figure: the formula with this tree's numbers in it, and the rules
    # whose numbers it uses, and the school where it is a school that says so. One shape for all of them, so that one
    # partial shows them.
    Working = Struct.new(:value, :formula, :rules, :notes, :practice, keyword_init: true) do
      def self.of(value, formula, rules: [], notes: [], practice: nil)
        new(value: value, formula: formula, rules: rules, notes: notes, practice: practice)
      end
    end
  end
end
