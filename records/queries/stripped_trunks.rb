# frozen_string_literal: true

module Vestry
  module Records
    # The stripped trunks of an orchard that are still looked after.
    class StrippedTrunks
      MOST = 300
      # What they follow from, besides the orchard and the day.
      FROM = %w[trees plans limbs grafts observations tallies weather_days phenology_seen tasks_done wounds
                wound_margins bridge_scions wound_visits scion_fates].freeze

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
      end

      # The most pressing first.
      #
      # @return [Array<WoundReport>]
      def all = @all ||= by_urgency(wounds.map { |wound| WoundReport.new(wound, @today, reckoned: figures[wound.id]) })

      # The days on which something falls due at any of them.
      #
      # @return [Array<Date>]
      def due_days
        all.flat_map { |each| each.mending[:tasks].select { |task| %w[open late ahead].include?(task[:status]) } }
          .map { |task| task[:due_on] }.uniq.sort
      end

      # What is stored of each, worked out.
      #
      # @return [Hash{Integer=>Hash}] by wound: +share+, +triage+ and +mending+
      def reckoned
        spring = @orchard.bark_forecast(@today)
        wounds.zip(spring.of_trees(wounds.map(&:tree))).to_h do |wound, of_tree|
          report = WoundReport.new(wound, @today, spring: spring, bark: of_tree)
          [wound.id, { share: report.share, triage: report.triage, mending: report.mending }]
        end
      end

      private

      def figures
        @figures ||= wounds.empty? ? {} : Derived.fetch(@orchard, "stripped trunks", @today, from: FROM) do |orchard|
          StrippedTrunks.new(orchard, @today).reckoned
        end
      end

      def by_urgency(reports)
        reports.sort_by.with_index do |each, i|
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
