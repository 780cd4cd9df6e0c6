# frozen_string_literal: true

module Vestry
  module Web
    # What the page of one limb's plan shows besides the outlook itself: how every method does
    # there, and what the form holds before anything is typed.
    class PlanAdvice < Records::StubAdvice
      # @param season [Integer] the one to plan for
      def initialize(limb, season:, today:, technique: nil, practice: nil, at_mm: nil)
        super(limb, planned: limb.planned,
              technique: (technique if limb.orchard.rulebook.stub_methods.include?(technique)),
              practice: (practice if Core::Plan::Sticks::PRACTICES.include?(practice)),
              at_mm: at_mm&.clamp(1.0, limb.length_mm.to_f - 1), today: today)
        @season = season
      end

      def ranking = stock_mm ? @ranking ||= Records::CoreInputs.methods(limb, stock_mm, today: @today)[:ranking] : []

      # How thick a stick the chosen method wants here, in mm; nil where any will do.
      def scion_wanted = ranking.find { |row| row[:method] == technique }&.fetch(:scion_wanted_mm)

      # The lengths behind what the form rounds for showing.
      def exact = { cut: at_mm, long_cut: planned&.long_cut_mm&.to_f }.compact

      # Whether what was set as it was planned then died, and nothing is decided since.
      def failed? = planned&.failed?(limb.graft) || false

      # The season that is decided; where what was set then died, the one in which it can be made again.
      def season
        return limb.orchard.last_days(@today).season_again(limb.graft) if failed?

        planned&.season || @season
      end

      # What is decided, as it is read now; nil where nothing is.
      def role = planned&.role_in(@season)

      # Whether what the form shows of a limb is decided; a place or a method may be proposed alone.
      def place_decided?
        !planned.nil? && (at_mm.nil? || !kept_mm.nil? || !Records::TreePlan::WORKED.include?(planned.role))
      end

      # What the form shows before anything is typed.
      def current_values
        units = limb.orchard.units
        { role: role || "work", season: season, technique: technique,
          practice: plainest(practice),
          cut: at_mm && Core::Measure.say(at_mm, units), variety: planned&.variety_id,
          against_reason: planned&.against_reason,
          long: !planned&.long_cut_mm.nil?, long_cut: planned&.long_cut_mm &&
          Core::Measure.say(planned.long_cut_mm, units), version: planned&.version }
      end
    end
  end
end
