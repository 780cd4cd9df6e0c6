# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # A plan of days for a crew: what closes soonest first, rows and varieties kept together, and
      # what will not fit said now.
      module Crew
        extend Reckoning

        VERDICTS = %w[good marginal wait].freeze

        contract "crew", "Which stubs to graft on which day, and which will not fit" do
          list :stubs, unique: :id do
            key :id
            name :method, -> { Rulebook.shipped.method_names }
            date :opens_on
            date :closes_on
            number :minutes, unit: "minutes", least: 0
            key :tree, optional: true
            key :row, optional: true
            key :variety, optional: true
            key :kind, optional: true, help: "by which the weather of a day suits it"
          end
          list :days do
            date :date
            name :verdict, VERDICTS, default: "good"
            number :hours, unit: "hours", least: 0
            integer :grafters, least: 0
            list :kinds, default: [].freeze, help: "kinds of stub for which the day is otherwise" do
              key :kind
              name :verdict, VERDICTS
            end
          end
          list :fixed, unique: :id, default: [].freeze, help: "stubs whose day is settled by hand" do
            key :id
            date :date
          end
        end

        # Day by day in order, over those that need not wait: of the stubs whose window is open, the
        # soonest closing first, and among equals by row, variety and tree, as many as the hours
        # hold; none goes on a day that has to wait for its kind. A stub that is fixed to a day is counted there first,
        # whatever the day is like.
        #
        # @return [Hash] +days+, each +date+, +stubs+ (ids in order), +minutes+, +capacity+ and +verdict+: the worst for
        #   any of its stubs; +later+ (ids), for which there is time enough after those days; and +missed+ (ids) with
        #   +missed_reasons+
        def self.call(stubs:, days:, fixed: [], rulebook: Rulebook.shipped)
          held = held(stubs, fixed)
          open = in_order(stubs - held.values.flatten(1))
          planned = days.sort_by { |day| day[:date] }.map { |day| fill(day, open, held.fetch(day[:date], [])) }
          later, short = open.partition { |stub| later?(stub, days, rulebook) }
          missed = short + held.except(*days.map { |day| day[:date] }).values.flatten(1)
          { days: planned, missed: missed.map { |stub| stub[:id] }, later: later.map { |stub| stub[:id] },
            missed_reasons: missed.map { |stub| why(stub, days) } }
        end

        # The hours of a day of which nothing else is said: none at the end of the week.
        #
        # @param date [Date]
        # @return [Float]
        def self.usual_hours(date, rulebook)
          date.saturday? || date.sunday? ? 0.0 : rulebook.value("reckoning.crew.hours").to_f
        end

        # The days of a spring that is past on which the weather let a crew work bark that slipped.
        #
        # @param days [Array<Hash>] +date+, +min_c+, +max_c+, +rain_mm+ and +gust_ms+, in order
        # @return [Array<Date>]
        def self.workable(species, days, rulebook)
          return [] if days.empty?

          GraftDay.call(species: species, needs_slip: true, days: days, slip: { reached_on: days.first[:date] },
                        rulebook: rulebook)[:days].reject { |day| day[:verdict] == "wait" }.map { |day| day[:date] }
        end

        # What a crew of the usual size can work on some days of which nothing else is said.
        #
        # @param dates [Array<Date>]
        # @return [Float] minutes
        def self.usual_minutes(dates, rulebook)
          dates.sum(0.0) { |date| usual_hours(date, rulebook) } * 60 * rulebook.value("reckoning.crew.grafters")
        end

        # @return [Hash{Date=>Array<Hash>}] the stubs that are fixed to each day
        def self.held(stubs, fixed)
          ids = stubs.to_h { |stub| [stub[:id], stub] }
          fixed.select { |each| ids.key?(each[:id]) }.group_by { |each| each[:date] }
            .transform_values { |all| all.map { |each| ids[each[:id]] } }
        end

        # The soonest closing first, and among equals as they are walked to.
        def self.in_order(stubs)
          stubs.sort_by.with_index do |stub, i|
            [stub[:closes_on], stub[:row].to_s, stub[:variety].to_s, stub[:tree].to_s, i]
          end
        end

        def self.fill(day, open, settled)
          capacity = day[:hours] * 60 * day[:grafters]
          used = settled.sum { |stub| stub[:minutes] }
          taken, left = open.partition do |stub|
            fits = open?(day, stub) && Near.at_most?(used + stub[:minutes], capacity)
            used += stub[:minutes] if fits
            fits
          end
          chosen = settled + taken
          open.replace(left)
          { date: day[:date], stubs: chosen.map { |stub| stub[:id] }, minutes: used, capacity: capacity,
            verdict: chosen.map { |stub| verdict(day, stub) }.max_by { |each| VERDICTS.index(each) } || day[:verdict] }
        end

        # Whether its window is open for long enough after the last of the days.
        def self.later?(stub, days, rulebook)
          last = days.map { |day| day[:date] }.max or return false
          stub[:closes_on] > [last, stub[:opens_on] - 1].max + rulebook.value("reckoning.crew.leeway")
        end

        def self.open?(day, stub)
          day[:date].between?(stub[:opens_on], stub[:closes_on]) && verdict(day, stub) != "wait"
        end

        # What a day is for a stub: by its kind, else for all.
        def self.verdict(day, stub)
          of_kind = day.fetch(:kinds, []).find { |each| each[:kind] == stub[:kind] } if stub[:kind]
          of_kind ? of_kind[:verdict] : day[:verdict]
        end

        def self.why(stub, days)
          inside = days.select { |day| day[:date] >= stub[:opens_on] && day[:date] <= stub[:closes_on] }
          code = if stub[:closes_on] < stub[:opens_on] then "crew_never_open"
                 elsif inside.empty? then "crew_no_day"
                 elsif inside.all? { |day| verdict(day, stub) == "wait" } then "crew_all_wait"
                 else
                   "crew_no_time"
                 end
          { code: code, id: stub[:id], opens_on: stub[:opens_on], closes_on: stub[:closes_on], minutes: stub[:minutes] }
        end
        private_class_method :held, :in_order, :fill, :open?, :later?, :verdict, :why
      end
    end
  end
end
