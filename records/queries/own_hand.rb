# frozen_string_literal: true

module Vestry
  module Records
    # A person's own hand at grafting in one orchard: what took of it, what is to be expected of it, and where a new
    # hand begins.
    class OwnHand
      # @param name [String] under which their grafts stand
      def initialize(orchard, name, today)
        @orchard = orchard
        @name = name
        @today = today
        @book = orchard.rulebook
      end

      # @return [Hash] +took+ and +lost+, in stubs
      def record
        @record ||= GraftOutcomeSql.tally(DB[:grafts].where(orchard_id: @orchard.id, grafter: @name, hidden_at: nil)
          .where(Sequel[:grafted_on] <= @today))
      end

      def trials = record[:took] + record[:lost]
      def beginner? = trials < @book.value("reckoning.practice.beginner_until")

      # The chance that one of their sticks takes.
      def expected(species, technique)
        first = Core::Plan::Methods.expected_take(species, technique, @book) *
          @book.value("reckoning.practice.beginner")
        Core::Tally::Take.of_stick(first, takes: record[:took], trials: trials, sticks: 1.0, rulebook: @book)
      end

      # A limb of the season's plans to begin on, which nobody else took on: their own; else spare before scaffold,
      # within reach, and the least of its tree.
      #
      # @return [PlanLimb, nil]
      def first_limb
        rows = @orchard.planned(:stubs, @orchard.season_to_plan(@today)).rows
          .select { |row| row.complete? && [nil, @name].include?(row.hand) }
        rows.min_by { |row| [row.hand ? 0 : 1, row.role == "backup" ? 0 : 1, high?(row) ? 1 : 0, row.limb.across_mm] }
      end

      private

      def high?(row) = @orchard.beyond_reach?(row.limb.fork_height_mm)
    end
  end
end
