# frozen_string_literal: true

module Vestry
  module Drawings
    # Steps of a method as slips that are moved up and down; once it is told, in their order.
    class PracticeOrder
      # @param exercise [Hash] as Core::Practice::Order shows it
      # @param order [Array<Integer>] as they were put
      # @param told [Hash, nil] what that came to
      def initialize(exercise, order: nil, told: nil)
        @steps = exercise[:steps].to_h { |step| [step[:id], step[:does]] }
        @order = order || @steps.keys
        @told = told
      end

      def svg = Template.render("practice_order", self)
      def judged? = !@told.nil?
      def slips = @order.filter_map { |id| @steps[id] && { id: id, does: @steps[id], right: right(id) } }
      def spoken = "#{@steps.size} steps, to be put into their order."

      private

      # Its place in the right order, once that is told.
      def right(id) = judged? ? @told[:best][:order].index(id) + 1 : nil
    end
  end
end
