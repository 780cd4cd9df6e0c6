# frozen_string_literal: true

module Vestry
  module Drawings
    # A working day as a lane: stubs as blocks as long as their minutes, one behind another, and what is left of the
    # crew's time. All days of a plan share one scale.
    class CrewLane
      HEIGHT = 40
      # So much of the lane a letter of a block's name takes, at a desk and on a phone.
      LETTER, PHONE_LETTER = 0.7, 2.2

      # @param blocks [Array<Hash>] +name+, +minutes+ and +settled+
      # @param capacity [Numeric] minutes that the crew has
      # @param longest [Numeric] minutes across the whole lane
      def initialize(blocks, capacity:, longest:, title:)
        @blocks = blocks
        @capacity = capacity
        @longest = [longest, 1].max
        @title = title
      end

      def svg = Template.render("crew_lane", self)
      def height = HEIGHT
      def open = share(@capacity)
      def label
        told = @blocks.map { |block| "#{block[:name]} #{block[:minutes].round} minutes" }
        "#{@title}: #{told.empty? ? 'nothing' : told.join(', ')}"
      end

      def blocks
        from = 0.0
        @blocks.map do |block|
          wide = share(block[:minutes])
          { at: from.round(2), wide: wide, name: (block[:name] if wide >= LETTER * block[:name].size),
            tight: wide < PHONE_LETTER * block[:name].size, settled: block[:settled],
            spoken: "#{block[:name]}, #{block[:minutes].round} min" }.tap { from += wide }
        end
      end

      private

      def share(minutes) = (minutes.to_f / @longest * 100).round(2)
    end
  end
end
