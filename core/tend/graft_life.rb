# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # One graft by a day: how it stands, what happened to it, and when what is to come is expected.
      class GraftLife
        MOVING = %w[swelling leafing].freeze
        # What a visit asks for by what it saw last: the point it looked at, and the words that ask for work.
        SEEN = { "cracked" => [:seal, %w[cracked gone]], "loose" => [:wrap, %w[loose]],
                 "biting" => [:wrap, %w[biting]], "stock-seen" => [:stock_shoots, %w[many]],
                 "pests" => [:pests, %w[aphids caterpillars other]] }.freeze
        # Every event that a rule of aftercare can hang on, and what tells its day: care.yml says of each what it is.
        EVENTS = { "grafted" => :grafted, "knit" => :knitted, "patience" => :patience, "leafed" => :leafed,
                   "hand" => :hand, "failed" => :failed, "too-late" => :too_late, "moved" => :moved,
                   "spring" => :spring, "autumn" => :autumn, "winter" => :winter, "heat" => :heat, "gale" => :gale,
                   "frost" => :frost, "drought" => :drought, "snapped" => :snapped, "fruit-seen" => :fruit_seen,
                   **SEEN.to_h { |name, point| [name, [:last_seen, *point]] } }.freeze
        # What a visit or a count can answer, by the points that answer it.
        ANSWERS = { "count" => nil, "look" => %i[buds callus verdict], "seal" => %i[seal], "pests" => %i[pests],
                    "stock-shoots" => %i[stock_shoots] }.freeze
        # How it can stand.
        STATES = %w[knitting false-start waiting late growing failed].freeze

        # @param graft [Hash] with its +counts+ and +lost_on+ in it
        # @param observations [Array<Hash>] visits, in order
        # @param climate [Climate]
        def initialize(graft, observations, climate, school, today, rulebook)
          @graft = graft
          @observations = observations.select { |each| each[:on] <= today }
          @climate = climate
          @school = school
          @today = today
          @rulebook = rulebook
          @season = Season.new(southern: graft[:southern])
          @events = {}
        end

        private

        def state
          @state ||=
            if failed_on then "failed"
            elsif took? then "growing"
            elsif moved_early_on then "false-start"
            elsif @today < knit[:on] then "knitting"
            elsif @today < patience_on then "waiting"
            else
              "late"
            end
        end

        # The last word counts: a stick written off and later seen in leaf is alive.
        def outcome
          @outcome ||= Tally::GraftOutcome.of(visits: @observations, counts: counts, lost_on: @graft[:lost_on],
                                              day: @today)
        end
        def failed_on = outcome[:lost_on]
        def counts = @graft[:counts] || []
        def took? = outcome[:took] || @observations.any? { |each| Care.took?(each, knit[:on], @rulebook) }

        def moved_early_on
          first = @observations.find { |each| MOVING.include?(each[:buds]) }
          first[:on] if first && first[:on] < knit[:on] && !%w[some full].include?(first[:callus])
        end

        def knit
          @knit ||= @climate.knit(@graft[:species], @graft[:grafted_on], @today,
                                  offset_c: @rulebook.value("care.figures.cover_warms").fetch(fact("cover"), 0).to_f)
        end

        def patience_on = knit[:on] + species_figure("knit_margin")

        # The day an event fell or is expected, and how that is known.
        def event(name) = @events.fetch(name) { @events[name] = send(*EVENTS.fetch(name)) }

        def grafted = [@graft[:grafted_on], "fact"]
        def knitted = [knit[:on], knit[:basis]]
        def patience = [patience_on, knit[:basis]]

        def leafed
          seen { |each| each[:buds] == "leafing" && each[:on] >= knit[:on] || each[:verdict] == "took" } ||
            [knit[:on] + figure("leafed_after_knit"), "expected"]
        end

        def hand
          seen { |each| (each[:longest_shoot_mm] || 0) >= figure("hand") } ||
            [event("leafed").first + figure("hand_after_leafed"), "expected"]
        end

        def failed = failed_on && [failed_on, "seen"]
        def moved = moved_early_on && [moved_early_on, "seen"]

        # When there is no time left this year to make it again.
        def too_late
          return nil if failed_on.nil? || time_left?

          [[failed_on, next_calendar("late-summer")].max, "calendar"]
        end

        def spring = [@season.next_day(calendar("spring"), event("winter").first), "calendar"]
        def autumn = [next_calendar("autumn"), "calendar"]
        def winter = [next_calendar("winter"), "calendar"]

        def heat = weather(@climate.heat(@graft[:grafted_on], @today))
        def gale = weather(@climate.gale(event("leafed").first, @today, within: closing("after-gale")))
        def drought = weather(@climate.dry(@graft[:grafted_on], @today))

        def frost
          from = @observations.find { |each| MOVING.include?(each[:buds]) }&.fetch(:on)
          from && weather(@climate.frost(from, @today, within: closing("after-frost")))
        end

        def snapped = flagged(:snapped)
        def fruit_seen = flagged(:fruit)

        def weather(day) = day && [day, "weather"]
        # So long after it a task is still open: the event is not forgotten before.
        def closing(rule) = @rulebook.task(rule)["closes"]

        # A flag of the latest visit alone: an earlier one was answered or is out of date.
        def flagged(name) = @observations.last&.then { |each| each[name] ? [each[:on], "seen"] : nil }

        # The first visit or count from a day on that says what a task asks for.
        def answered(what, from)
          names = ANSWERS.fetch(what)
          return counts.map { |each| each[:on] }.select { |on| on >= from && on <= @today }.min unless names

          @observations.find { |each| each[:on] >= from && names.any? { |name| each[name] } }&.fetch(:on)
        end

        # The latest word on something, when it asks for work.
        def last_seen(name, values)
          last = @observations.reverse_each.find { |each| each[name] }
          last && values.include?(last[name]) ? [last[:on], "seen"] : nil
        end

        def seen(&)
          found = @observations.find(&)
          found && [found[:on], "seen"]
        end

        def time_left? = failed_on.nil? || failed_on <= RegraftDay.last(@season, @graft[:grafted_on], @rulebook)

        def fact(point)
          case point
          when "several-sticks" then @graft[:sticks] > 1 ? "yes" : "no"
          when "braced" then @graft[:brace] ? "yes" : "no"
          when "time-left" then time_left? ? "yes" : "no"
          when "too-young" then seasons <= @rulebook.fruitless_seasons(@school) ? "yes" : "no"
          else @graft[point.to_sym] || @rulebook.practice(point, @school)
          end
        end

        # Growing seasons so far, the first its own.
        def seasons = @season.name_of(@today) - @season.name_of(@graft[:grafted_on]) + 1

        def figure(name) = @rulebook.value("care.figures.#{name}")
        def calendar(name) = @rulebook.value("care.calendar.#{name}")
        def next_calendar(name) = @season.next_day(calendar(name), @graft[:grafted_on])
        def species_figure(name) = @rulebook.value("species.#{@graft[:species]}.#{name}")
      end
    end
  end
end
