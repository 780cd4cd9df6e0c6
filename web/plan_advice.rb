# frozen_string_literal: true

module Vestry
  module Web
    # What the reckonings say about working one limb: a method to begin with, where to cut for
    # it, how every method does there, and how many sticks on which faces.
    class PlanAdvice
      attr_reader :limb, :planned

      def initialize(limb, season:, technique: nil, practice: nil)
        @limb = limb
        @planned = limb.planned
        @season = season
        @asked = technique if limb.orchard.rulebook.stub_methods.include?(technique)
        @practice = practice if Core::Plan::Sticks::PRACTICES.include?(practice)
      end

      # The method asked for, else the planned one, else the best that finds a place on the limb.
      def technique = @asked || planned&.technique || best

      def cut = @cut ||= Records::CoreValues.cut_point(limb, technique)

      # The place planned for this method, else the preferred one.
      def at_mm
        kept = planned&.cut_mm&.to_f if technique == planned&.technique
        kept || cut[:at_mm]
      end

      def stock_mm = at_mm && Records::CoreValues.diameter_at(limb, at_mm)

      def ranking = stock_mm ? Records::CoreValues.methods(limb, stock_mm)[:ranking] : []

      def practice
        @practice || limb.orchard.rulebook.practice("sticks", limb.orchard.school)
      end

      def sticks = stock_mm && Records::CoreValues.sticks(limb, stock_mm, practice: practice)

      def upright? = sticks.key?(:bearings_deg)
      def faces = sticks[:bearings_deg] || sticks[:clock_deg]

      # What the form shows before anything is typed.
      def standing
        { role: planned&.role || "work", season: planned&.season || @season, technique: technique, practice: practice,
          cut: at_mm && Core::Measure.say(at_mm, limb.orchard.units), variety: planned&.variety_id, against_reason: planned&.against_reason,
          version: planned&.version }
      end

      private

      def best
        book = limb.orchard.rulebook
        prefers = book.book("schools").dig("schools", limb.orchard.school, "prefers") || []
        (prefers + book.stub_methods).uniq.find { |each| Records::CoreValues.cut_point(limb, each)[:feasible] } || prefers.first || "bark"
      end
    end
  end
end
