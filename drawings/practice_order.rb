# frozen_string_literal: true

module Vestry
  module Drawings
    # Steps of a method as slips that are moved up and down; once it is told, in their order.
    class PracticeOrder
      # @param exercise [Hash] as Core::Practice::Order shows it
      # @param order [Array<Integer>] as they were put
      # @param starts [Integer] step with which the clock was said to start, +stops+ to stop
      # @param result [Hash, nil] what that came to
      def initialize(exercise, order: nil, starts: nil, stops: nil, result: nil)
        @steps = exercise[:steps].to_h { |step| [step[:id], step[:does]] }
        @order = order || @steps.keys
        @clock = { starts: starts, stops: stops }
        @asks = exercise[:asks_clock]
        @result = result
      end

      def svg = Template.render("practice_order", self)
      def judged? = !@result.nil?
      def asks = @asks
      def slips
        @order.filter_map { |id| @steps[id] && { id: id, does: @steps[id], right: right(id), clock: clock(id) } }
      end
      def spoken = "#{@steps.size} steps, to be put into their order."

      private

      # What its clock does: as it was said, or as it is once that is told.
      def clock(id) = (judged? ? @result[:best] : @clock).slice(:starts, :stops).key(id)

      # Its place in the right order, once that is told.
      def right(id) = judged? ? @result[:best][:order].index(id) + 1 : nil
    end
  end
end
