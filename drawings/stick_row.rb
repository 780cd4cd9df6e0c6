# frozen_string_literal: true

module Vestry
  module Drawings
    # Sticks end-on in a row: those at hand whole, those that are lacking as broken rings, those over the need paler.
    class StickRow
      ACROSS, MOST, EACH = 17, 40, 20
      WIDTH = 340

      # @param wanted [Integer] and +have+, sticks
      def initialize(wanted:, have:, name:)
        @wanted = wanted
        @have = have
        @name = name
      end

      def svg = Template.render("stick_row", self)
      def width = WIDTH
      def height = ((shown - 1).clamp(0, MOST) / EACH + 1) * ACROSS + 2
      def label = "Sticks of #{@name}: #{words}"

      # "11 of 19" wanted are here; more than are wanted are no part of them.
      def words
        return "#{@have}, none wanted" if @wanted.zero?

        @have > @wanted ? "#{@have}, #{@wanted} wanted" : "#{@have} of #{@wanted}"
      end

      def shown = [[@wanted, @have].max, MOST].min
      def more = [@wanted, @have].max - shown

      def sticks
        (0...shown).map do |i|
          { x: i % EACH * ACROSS + 8.5, y: i / EACH * ACROSS + 9,
            kind: i >= @have ? "lacking" : i >= @wanted ? "spare" : "here" }
        end
      end
    end
  end
end
