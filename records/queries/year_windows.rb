# frozen_string_literal: true

module Vestry
  module Records
    # The orchard's own windows in its working year: when wood is cut, bark slips, grafts were made, things fall due
    # and the tally is taken.
    class YearWindows
      FROM = %w[trees weather_days phenology_seen grafts limbs observations tasks_done tallies bundles sticks
                bundle_checks wounds wound_margins bridge_scions wound_visits scion_fates].freeze
      private_constant :FROM

      # @return [Array<Hash>] +station+, +name+, +kind+ (window, days or ticks), +from+, +to+, and where it fades in
      #   +sure+: the day from which it is certain
      def self.of(orchard, today)
        Derived.fetch(orchard, "year windows", today, from: FROM) { |fresh| new(fresh, today).all }
      end

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @season = orchard.season
        @book = orchard.rulebook
      end

      def all = [wood, *slip, *made, *due, *wood_checks, tally]

      private

      def start = @season.year_start(@today)
      def on(station, name, kind, day) = { station: station, name: name, kind: kind, from: day, to: day }

      def wood
        from = @season.next_day(@book.value("site.calendar.wood_from"), start)
        { station: "wood", name: "Wood to cut", kind: "window", from: from,
          to: @season.next_day(@book.value("site.calendar.wood_to"), from) }
      end

      # When bark slips, from the first species' likely day to the last one's closing; it fades in from
      # the forecast's 10 to its 90 per cent date.
      def slip
        spring = @orchard.bark_forecast(@today)
        told = spring.species.map { |species| spring.of_species(species) }
        opens = told.filter_map { |each| each[:reached_on] || each[:p10] }.min
        sure = told.filter_map { |each| each[:reached_on] || each[:p90] }.min
        closes = spring.species.map { |species| spring.closes_on(species) }.max
        return [] if opens.nil? || closes < opens

        [{ station: "slip", name: told.all? { |each| each[:basis] == "calendar" } ? "Bark slips, most years" :
           "Bark slips", kind: "window", from: opens, to: closes, sure: sure }]
      end

      def made
        GraftQueries.grafting_days(@orchard, start...(start >> 12)).map { |day| on("graft", "Grafted", "days", day) }
      end

      def due
        Agenda.new(@orchard, @today).due_days(@today + CareSchedule::AHEAD).map do |day|
          on("tend", "Due", "ticks", day)
        end
      end

      def wood_checks
        @orchard.wood_store(@today).checks_due.map { |day| [day, @today].max }.uniq
          .map { |day| on("wood", "Look at the wood", "ticks", day) }
      end

      def tally
        from = @season.next_day(@book.value("care.calendar.autumn"), start)
        { station: "tally", name: "Tally", kind: "window", from: from,
          to: [from + @book.task("tally")["closes"], (start >> 12) - 1].min }
      end
    end
  end
end
