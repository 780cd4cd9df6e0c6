# frozen_string_literal: true

module Vestry
  module Drawings
    # Where along a limb its thickness suits a method: a bar, darker where it suits best, under the limb's own scale.
    class MethodBar
      # @param stretch [Hash] +works+ and +ideal+, each from and to along the limb, or nil
      def initialize(name, stretch, length_mm:, at_mm:)
        @name = name
        @stretch = stretch
        @length_mm = length_mm
        @at_mm = at_mm
      end

      def svg = Template.render("method_bar", self)
      def at = share(@at_mm)
      def works = part(:works)
      def ideal = part(:ideal)

      def label
        return "#{@name}: nowhere here" unless works

        "#{@name}: suits #{works[0].round} to #{(works[0] + works[1]).round} % of the way out"
      end

      private

      def share(mm) = (mm / @length_mm * 100).round(3)
      def part(kind) = @stretch[kind]&.then { |from, to| [share(from), (share(to) - share(from)).round(3)] }
    end
  end
end
