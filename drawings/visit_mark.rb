# frozen_string_literal: true

module Vestry
  module Drawings
    # What may be seen at a visit, small enough for a button: buds, callus, seal, wrap, stock shoots.
    class VisitMark
      SIZE = 64.0
      LEAF = "M32 20C18 20 12 12 12 6C24 5 31 11 32 20Z"

      def initialize(kind, state)
        @kind = kind
        @state = state
      end

      def svg = Template.render("visit_mark", self)
      def size = SIZE
      def kind = @kind
      def state?(*states) = states.include?(@state)
    end
  end
end
