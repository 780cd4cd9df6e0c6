# frozen_string_literal: true

module Vestry
  module Records
    # How long stubs take in this orchard beside the rulebook's minutes, by those that the walk of the day's stubs
    # timed.
    class OwnPace
      # The latest so many: people grow quicker.
      MOST = 200

      def initialize(orchard) = @orchard = orchard

      # @return [Hash] +times+ the rulebook's minutes, and +stubs+ that say so
      def of_here
        @of_here ||= Core::Plan::WorkTime.pace(taken, rulebook: @orchard.rulebook)
      end

      def times = of_here[:times]

      # Timed grafts, each with the minutes that the rulebook gives it.
      #
      # @return [Array<Hash>] +minutes+ and +reckoned+
      def taken
        Graft.in_sight.where(orchard_id: @orchard.id).exclude(minutes: nil).order(Sequel.desc(:id)).limit(MOST)
          .eager(limb: :tree).all.map do |graft|
          height = graft.cut_mm && graft.limb.height_at(graft.cut_mm.to_f)
          { minutes: graft.minutes,
            reckoned: Core::Plan::WorkTime.minutes(graft.technique, graft.sticks, height, @orchard.rulebook) }
        end
      end
    end
  end
end
