# frozen_string_literal: true

module Vestry
  module Records
    # The planned stubs of a season that can still be set, whatever wood there is: none whose bark has closed, that heat
    # or autumn has overtaken, or that takes no wood from a store. What wood is wanted for, and matched to, is these.
    class StubsInTime
      # @param variety [Integer, nil] those alone that are to become it
      def initialize(orchard, season, today, variety: nil)
        @orchard = orchard
        @season = season
        @today = today
        @planned = orchard.planned(:stubs, season, variety: variety)
      end

      # @return [Array<PlanLimb>] in walking order, as PlannedRows has them
      def rows = @rows ||= stored_wood(@planned.rows).reject { |row| over.include?(row.id) }
      def of(ids) = stored_wood(@planned.of(ids - over))

      # Those whose buds are cut on the day, from this summer's growth.
      def fresh = @planned.rows.select { |row| row.technique && days.summers_wood?(row.technique, @season) }
      # Those that are joined to a rooted plant.
      def joined = by_a("donor").reject { |row| over.include?(row.id) }
      def cut_off? = @planned.cut_off?

      # Under what name a result is stored that follows from them: another once their chips take other wood, and once
      # the season's bare stretches want theirs of the next.
      def stored_as(name)
        turn = PlannedSites.turn(@orchard, @season, @today)
        "#{name} #{@season} #{turn}#{' summer' if days.chips_of_summer?(@season)}"
      end

      # What is stored of them follows from this too.
      #
      # @param tables [Array<String>]
      # @return [Array<String>]
      def from(tables) = late? ? tables | StubWindows::FROM : tables

      private

      # By methods of which a fact is true.
      def by_a(fact)
        @planned.rows.select { |row| row.technique && @orchard.rulebook.method_fact(row.technique, fact) }
      end

      def stored_wood(rows) = rows.select { |row| days.stored_wood?(row.technique, @season) }

      def over = @over ||= late? ? StubWindows.new(@orchard, @today, season: @season).over : []

      # Whether the time of some kind, or of some tree, is over this year; before, that of no stub is.
      def late?
        return @late unless @late.nil?

        @late = @season == @orchard.season.name_of(@today) &&
          (kinds.any? { |kind| days.of_kind(kind) < @today } || closed_already?)
      end

      def closed_already?
        this_year = @orchard.season.span(@season)
        PhenologySeen.closings(@orchard, @today).any? { |_, _, on| this_year.cover?(on) }
      end

      def kinds = @orchard.species & Core::Rulebook.shipped.species_names
      def days = @orchard.last_days(@today)
    end
  end
end
