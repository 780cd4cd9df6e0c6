# frozen_string_literal: true

module Vestry
  module Records
    # Wood that has to come from elsewhere: what is still to be asked for, and what was ordered and is awaited.
    class NurseryOrder
      # +sticks+ to ask for: what the plans want, less what is in store and what is awaited; +sizes+ [least, greatest]
      # of those that are to fit a limb's own size, in mm.
      Line = Struct.new(:variety, :sticks, :sizes, keyword_init: true)

      attr_reader :order

      # @param order [WoodOrder]
      def initialize(orchard, order)
        @orchard = orchard
        @order = order
      end

      # Of varieties that no limb here can throw.
      #
      # @return [Array<Line>]
      def lines
        @lines ||= order.lines.filter_map do |line|
          sticks = to_ask(line)
          Line.new(variety: line.variety, sticks: sticks, sizes: sizes(line)) if sticks.positive?
        end
      end

      # How many sticks of a line are still to be asked for elsewhere; none where a tree here can throw them.
      #
      # @param line [WoodOrder::Line]
      def to_ask(line) = line.sources.empty? ? line.to_find : 0

      # What is on its way, oldest first.
      #
      # @return [Array<WoodPromise>]
      def awaited = @awaited ||= promises.where(received_on: nil).exclude(ordered_on: nil).order(:id).all
      def overdue(today) = awaited.select { |promise| promise.wanted_by && promise.wanted_by < today }
      def received = @received ||= promises.exclude(received_on: nil).order(:id).all

      # By when it is wanted: before the buds of what is asked for stir here.
      def wanted_by = lines.map { |line| order.cut_until(line.variety) }.min || order.cut_until

      private

      def promises = WoodPromise.in_sight.where(orchard_id: @orchard.id, season: order.season).eager(:variety)

      def sizes(line)
        [line.diameters.map(&:from_mm).min, line.diameters.map(&:to_mm).max] if line.diameters.any?
      end
    end
  end
end
