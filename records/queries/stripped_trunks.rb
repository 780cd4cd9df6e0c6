# frozen_string_literal: true

module Vestry
  module Records
    # The stripped trunks of an orchard that are still looked after.
    class StrippedTrunks
      MOST = 300

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      # The most pressing first.
      #
      # @return [Array<WoundReport>]
      def all = @all ||= reckoned

      # The days on which something falls due at any of them.
      #
      # @return [Array<Date>]
      def due_days
        all.flat_map { |each| each.mending[:tasks].select { |task| %w[open late ahead].include?(task[:status]) } }
          .map { |task| task[:due_on] }.uniq.sort
      end

      private

      def reckoned
        return [] if wounds.empty?

        spring = @orchard.bark_forecast(@today)
        told = wounds.zip(spring.of_trees(wounds.map(&:tree)))
          .map { |wound, of_tree| WoundReport.new(wound, @today, spring: spring, bark: of_tree) }
        told.sort_by.with_index do |each, i|
          [each.settled? ? 2 : (each.repaired? ? 1 : 0), each.triage[:rank], each.triage[:days_left] || 9999,
           -each.share, i]
        end
      end

      # Those found last first.
      def wounds
        @wounds ||= begin
          found = Wound.in_sight.where(orchard_id: @orchard.id).where(Sequel[:found_on] <= @today)
            .order(Sequel.desc(:found_on), :id).limit(MOST).eager(:tree, :scions, :visits, :tasks_done).all
          Wound.read_margins(found)
          WoundVisit.read_fates(found.flat_map(&:visits))
          found
        end
      end
    end
  end
end
