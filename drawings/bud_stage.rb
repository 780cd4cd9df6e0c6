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

      def svg = Template.render("bud_stage", self)

      # Where a page shows the same stages many times: drawn once, and pointed at.
      def self.sheet(stages)
        drawn = stages.map do |stage|
          inside = new(stage).svg[/<svg[^>]*>(.*)<\/svg>/m, 1]
          %(<symbol class="drawing bud-stage" id="bud-#{stage}" viewBox="0 0 #{SIZE} #{SIZE}">#{inside}</symbol>)
        end
        %(<svg class="visually-hidden" aria-hidden="true">#{drawn.join}</svg>)
      end

      def again
        %(<svg class="drawing bud-stage" viewBox="0 0 #{SIZE} #{SIZE}" aria-hidden="true">) +
          %(<use href="#bud-#{stage}"/></svg>)
      end

      def size = SIZE
      def at?(*stages) = stages.include?(stage)
    end
  end
end
