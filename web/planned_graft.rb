# frozen_string_literal: true

module Vestry
  module Web
    # What the log of a graft holds before anything is changed: as it was planned, with the first stick that the match
    # gives, by the school's practice. The bench and the walk of the day's stubs begin from the same.
    class PlannedGraft
      # @param limb [Records::Limb]
      # @param given [Array<Records::Stick>] the sticks that the match gives to it
      # @param by [String] who grafts
      # @param say [#length, #thickness] how lengths are said in this orchard
      def initialize(limb, given, today, by:, say:)
        @limb = limb
        @planned = limb.planned
        @orchard = limb.orchard
        @given = given
        @today = today
        @by = by
        @say = say
      end

      # As many as are planned, also where the match has fewer: how many there were is said when it is set.
      def sticks = @planned&.sticks || 1

      # Where each sits; none where nothing is planned.
      def faces
        return [] unless @planned

        planned = @planned.faces.to_a.map(&:to_f)
        planned.any? ? planned : Records::CoreInputs.faces(@limb, sticks, @planned.technique)
      end

      # The fields of Contracts::LogGraftForm.
      def fields
        { grafted_on: @today.iso8601, technique: @planned&.technique || @orchard.rulebook.end_methods.first,
          variety: @planned&.variety_id, **cut, faces: Contracts::LogGraftForm.shown(faces), sticks: sticks, **wood,
          **practice, grafter: @by }
      end

      private

      def cut
        at = @planned&.place_mm or return {}
        { cut: @say.length(at), stub: @say.length(Records::CoreInputs.diameter_at(@limb, at)) }
      end

      def wood
        stick = @given.first or return {}
        { bundle: stick.bundle_id, scion: stick.diameter_mm && @say.thickness(stick.diameter_mm) }
      end

      # As the school does it.
      def practice
        said = @limb.tree.method(:practice)
        { wrap: said["wrap"], seal: said["seal"], cover: said["cover"], perch: ("true" if said["perch"] == "yes") }
      end
    end
  end
end
