# frozen_string_literal: true

module Vestry
  module Records
    # The trees with stubs waiting whose bark was not seen to slip yet, and when to come back to each: while there is
    # time to graft them.
    class RevisitList
      # +buds+ where it is the bark of late summer alone that is waited for.
      Revisit = Struct.new(:told, :on, :stubs, :buds, keyword_init: true) do
        # Whether it was tested this season, and did not lift.
        def did_not_lift? = told.seen.any? { |each| each.slipping == false }
      end

      # @param windows [StubWindows]
      def initialize(orchard, today, windows)
        @orchard = orchard
        @today = today
        @windows = windows
      end

      # @return [Array<Revisit>] soonest first, in walking order within a day
      def visits
        @visits ||= waiting.group_by { |stub| stub.tree.id }.filter_map { |_, stubs| revisit(stubs) }
          .sort_by { |visit| [visit.on, visit.told.tree.row, visit.told.tree.number] }
      end

      # So many days are told of.
      DAYS = 12

      # The first days with their visits, and how many come after them.
      #
      # @return [Array<Array(Date, Array<Visit>)>]
      def days = @days ||= visits.group_by(&:on).first(DAYS)
      def later = visits.size - days.sum { |_, visits| visits.size }

      def due = visits.select { |visit| visit.on <= @today }

      private

      def waiting = @windows.stubs.select { |stub| stub.needs_slip && !stub.late }

      # When to come back to a tree; a shield's bark is that of late summer.
      def revisit(stubs)
        untested = stubs.reject(&:lifted)
        return if untested.empty?

        told, opens = stubs.first.told, untested.map { |stub| stub.window[:opens_on] }.min
        spring = untested.any? { |stub| stub.kind == "slip" }
        Revisit.new(told: told, on: spring ? day(told) : [day(told), opens].max, stubs: stubs.size, buds: !spring)
      end

      def day(told)
        cut_on = told.seen.reverse.find { |seen| seen.slipping == false }&.seen_on
        Core::Slip::BarkDates.come_back(told.reached_on, told.p50, cut_on, @today, @orchard.rulebook)
      end
    end
  end
end
