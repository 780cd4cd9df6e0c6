# frozen_string_literal: true

module Vestry
  module Drawings
    # A shoot's tip as it stands at each stage of spring, small enough for a button.
    class BudStage
      SIZE = 64.0

      def initialize(stage)
        @stage = stage
      end

      attr_reader :stage

      def svg = Page.render("bud_stage", self)
      def size = SIZE
      def at?(*stages) = stages.include?(stage)
    end
  end
end
