# frozen_string_literal: true

module Vestry
  module Web
    # The working behind a figure: the formula with this tree's numbers in it, and the rules
    # whose numbers it uses. One shape for all of them, so that one partial shows them.
    Working = Struct.new(:value, :formula, :rules, :notes, keyword_init: true) do
      def self.of(value, formula, rules: [], notes: []) = new(value: value, formula: formula, rules: rules, notes: notes)
    end
  end
end
