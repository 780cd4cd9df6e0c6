# frozen_string_literal: true

module Vestry
  module Drawings
    # A usual mistake, drawn as it looks when the bark is lifted again.
    class Mistake
      WIDTH = 120.0
      HEIGHT = 96.0
      # By how a mistake's words begin.
      KINDS = { "not down to wood" => "on-bark", "seated too deep" => "too-deep", "faces touching" => "touching",
                "upside down" => "upside-down", "two cuts" => "rocking", "panel wider" => "wide-panel",
                "flaps shorter" => "short-flaps", "wedge blunt" => "blunt", "cambium set inside" => "inside",
                "set in the middle" => "middle", "back of the bud" => "touched", "tied over" => "tied-over",
                "chip smaller" => "small-chip", "faces not flat" => "not-flat", "severed too soon" => "severed",
                "pulled straight" => "no-bow", "an end on dead bark" => "dead-bark" }.freeze

      # @return [Mistake, nil] nil for one that is said in words alone
      def self.for(words) = KINDS.find { |start, _| words.start_with?(start) }&.then { |_, kind| new(kind, words) }

      def initialize(kind, words)
        @kind = kind
        @words = words
      end

      attr_reader :kind, :words

      def svg = Template.render("mistake", self)
      def width = WIDTH
      def height = HEIGHT
    end
  end
end
