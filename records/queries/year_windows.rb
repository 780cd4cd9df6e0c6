# frozen_string_literal: true

module Vestry
  module Records
    # The orchard's own windows in its working year, one for each station of the work: when wood is cut, bark slips,
    # grafts are made and looked after, and the tally is taken. Where no tree stands yet they are the calendar's.
    class YearWindows
      FROM = (CareSchedule::FROM + StrippedTrunks::FROM + %w[bundles sticks bundle_checks varieties sites plan_sites])
        .uniq.freeze
      private_constant :FROM

      # @return [Array<Hash>] +station+, +name+, +kind+ (window, days or ticks), +from+, +to+, and where it fades in
      #   +sure+: the day from which it is certain
      def self.of(orchard, today)
        Derived.fetch(orchard, "year windows", today, from: FROM) do |fresh|
          windows = new(fresh, today)
          # While grafts are still reckoned, what is due is not known to the end, and is not stored.
          windows.settled? ? windows.all : (return windows.all)
        end
      end

      def initialize(orchard, today)
        @orchard = orchard
        @today = today
        @season = orchard.season
        @book = orchard.rulebook
      end

      def settled? = agenda.left.zero?
      def all = [wood, slip, grafting, aftercare, tally, *made, *due, *wood_checks]

      private

      def agenda = @agenda ||= Agenda.new(@orchard, @today)
      def start = @season.year_start(@today)
      def on(station, name, kind, day) = { station: station, name: name, kind: kind, from: day, to: day }

      # As the wood's own page has it.
      def wood
        window("wood", "Wood to cut",
               *WoodOrder.new(@orchard, @season.name_of(start), @today).window.values_at(:from, :to))
      end

      def window(station, name, from, to, sure: nil)
        { station: station, name: name, kind: "window", from: from, to: to, sure: sure }
      end

      # When bark slips, from the first species' likely day to the last one's closing; it fades in from
      # the forecast's 10 to its 90 per cent date.
      def slip
        from, to = bark
        sure = forecasts.filter_map { |each| each[:reached_on] || each[:p90] }.min
        window("slip", forecasts.all? { |each| each[:basis] == "calendar" } ? "Bark slips, most years" : "Bark slips",
               from, to, sure: sure)
      end

      def bark
        @bark ||= begin
          opens = forecasts.filter_map { |each| each[:reached_on] || each[:p10] }.min
          closes = spring.closes_last
          opens && closes && closes >= opens ? [opens, closes] :
            %w[slip_from slip_to].map { |name| @season.next_day(@book.value("site.calendar.#{name}"), start) }
        end
      end

      def spring = @spring ||= @orchard.bark_forecast(@today)
      def forecasts = @forecasts ||= spring.species.map { |species| spring.of_species(species) }

      # From when bark is likely to slip to the last day on which a graft still makes sense on any tree here.
      def grafting
        opens, closes = bark
        to = @orchard.last_days(@today).anywhere || closes
        window("graft", "Grafting", opens, to >= opens ? to : closes)
      end

      # What grows is looked after until it is counted; looks at older grafts fall due all the year round.
      def aftercare = window("tend", "Aftercare", grafting[:to] + 1, [tally[:from] - 1, grafting[:to] + 1].max)

      def made
        GraftQueries.grafting_days(@orchard, start...(start >> 12)).map { |day| on("graft", "Grafted", "days", day) }
      end

      def due
        agenda.due_days(@today + CareSchedule::AHEAD).map do |day|
          on("tend", "Due", "ticks", day)
        end
      end

      def wood_checks
        @orchard.wood_store(@today).checks_due.map { |day| [day, @today].max }.uniq
          .map { |day| on("wood", "Look at the wood", "ticks", day) }
      end

      def tally
        from = @season.next_day(@book.value("care.calendar.autumn"), start)
        window("tally", "Tally", from, [from + @book.task("tally")["closes"], (start >> 12) - 1].min)
      end
    end
  end
end
