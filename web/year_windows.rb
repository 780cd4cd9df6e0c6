# frozen_string_literal: true

module Vestry
  module Web
    # The orchard's own windows for the year band, from its facts.
    module YearWindows
      Window = Drawings::YearBand::Window

      module_function

      def of(orchard, today)
        season = orchard.season
        start = season.year_start(today)
        [wood(orchard, season, start), *slip(orchard, season, today), *made(orchard, start), *checks(orchard, today),
         tally(orchard, season, start)]
      end

      def wood(orchard, season, start)
        from = season.next_day(orchard.rulebook.value("site.calendar.wood_from"), start)
        Window.new(station: "wood", name: "Wood to cut", kind: "window", from: from,
                   to: season.next_day(orchard.rulebook.value("site.calendar.wood_to"), from))
      end

      # When bark slips, from the first species' likely day to the last one's closing; it fades in from
      # the forecast's 10 to its 90 per cent date.
      def slip(orchard, _season, today)
        spring = orchard.spring(today)
        return [] if spring.species.empty?

        told = spring.species.map { |species| spring.of_species(species) }
        opens = told.filter_map { |each| each[:reached_on] || each[:p10] }.min
        sure = told.filter_map { |each| each[:reached_on] || each[:p90] }.min
        closes = spring.species.map { |species| spring.closes_on(species) }.max
        return [] if opens.nil? || closes < opens

        [Window.new(station: "slip", name: told.all? { |each| each[:basis] == "calendar" } ? "Bark slips, most years" :
                    "Bark slips", kind: "window", from: opens, to: closes, sure: sure)]
      end

      def made(orchard, start)
        days = Records::Reading.grafting_days(orchard, start...(start >> 12))
        days.map { |day| Window.new(station: "graft", name: "Grafted", kind: "days", from: day, to: day) }
      end

      def checks(orchard, today)
        Records::Agenda.new(orchard, today).due_days(today + Records::Upkeep::AHEAD).map do |day|
          Window.new(station: "tend", name: "Due", kind: "ticks", from: day, to: day)
        end + orchard.cellar(today).checks_due.map { |day| Window.new(station: "wood", name: "Look at the wood",
                                                                      kind: "ticks", from: [day, today].max, to: [day,
                                                                        today].max) }.uniq(&:from)
      end

      def tally(orchard, season, start)
        from = season.next_day(orchard.rulebook.value("care.calendar.autumn"), start)
        rule = orchard.rulebook.task("tally")
        Window.new(station: "tally", name: "Tally", kind: "window", from: from,
                   to: [from + rule["closes"], (start >> 12) - 1].min)
      end
    end
  end
end
