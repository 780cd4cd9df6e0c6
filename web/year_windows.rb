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
        [wood(orchard, season, start), *slip(orchard, season, today), *made(orchard, start), *checks(orchard, today), tally(orchard, season, start)]
      end

      def wood(orchard, season, start)
        from = season.next_day(orchard.rulebook.value("site.calendar.wood_from"), start)
        Window.new(station: "wood", name: "Wood to cut", kind: "window", from: from, to: season.next_day(orchard.rulebook.value("site.calendar.wood_to"), from))
      end

      # The ordinary slip of the species that stand here.
      def slip(orchard, season, today)
        species = orchard.species & Core::Rulebook.shipped.species_names
        return [] if species.empty?

        opens = species.map { |each| orchard.rulebook.value("species.#{each}.slip_opens") }.min
        closes = species.map { |each| orchard.rulebook.value("species.#{each}.slip_closes") }.max
        [Window.new(station: "slip", name: "Bark slips, most years", kind: "window",
                    from: season.bark_day(opens, today), to: season.bark_day(closes, today))]
      end

      def made(orchard, start)
        days = orchard.grafts_dataset.where(hidden_at: nil, grafted_on: start...(start >> 12)).distinct.select_map(:grafted_on)
        days.map { |day| Window.new(station: "graft", name: "Grafted", kind: "days", from: day, to: day) }
      end

      def checks(orchard, today)
        Records::Agenda.new(orchard, today).items(ahead: 200).map { |item| item.task[:due_on] }.uniq.map do |day|
          Window.new(station: "tend", name: "Due", kind: "ticks", from: day, to: day)
        end + Records::Cellar.new(orchard, today).checks_due.map { |day| Window.new(station: "wood", name: "Look at the wood", kind: "ticks", from: [day, today].max, to: [day, today].max) }.uniq(&:from)
      end

      def tally(orchard, season, start)
        from = season.next_day(orchard.rulebook.value("care.calendar.autumn"), start)
        rule = orchard.rulebook.book("care").dig("rules", "tally")
        Window.new(station: "tally", name: "Tally", kind: "window", from: from, to: [from + rule["closes"], (start >> 12) - 1].min)
      end
    end
  end
end
