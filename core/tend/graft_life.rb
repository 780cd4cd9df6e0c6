# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # One graft by a day: how it stands, what happened to it, and when what is to come is expected.
      class GraftLife
        MOVING = %w[swelling leafing].freeze
        # What a visit asks for by what it saw last: the point it looked at, and the words that ask for work.
        SEEN = { "cracked" => [:seal, %w[cracked gone]], "loose" => [:wrap, %w[loose]],
                 "biting" => [:wrap, %w[biting]], "moving-seen" => [:buds, MOVING],
                 "stock-seen" => [:stock_shoots, %w[many]],
                 "pests" => [:pests, %w[aphids caterpillars other]] }.freeze
        # Every event that a rule of aftercare can hang on, and what tells its day: care.yml says of each what it is.
        EVENTS = { "grafted" => :grafted, "knit" => :knitted, "patience" => :patience, "leafed" => :leafed,
                   "hand" => :hand, "pushing" => :pushing, "failed" => :failed, "too-late" => :too_late,
                   "moved" => :moved, "shaded" => :shaded, "spring" => :spring, "autumn" => :autumn,
                   "winter" => :winter, "heat" => :heat, "gale" => :gale,
                   "frost" => :frost, "drought" => :drought, "snapped" => :snapped, "fruit-seen" => :fruit_seen,
                   "callused" => :callused, "joined" => :joined, "halved" => :halved, "waking" => :waking,
                   "rebud" => :rebud, "summer-over" => :summer_over,
                   "closed" => :closed, "scaffold" => :scaffold,
                   "last-regraft" => :last_regraft, "last-bud" => :last_bud,
                   "last-regraft-now" => :last_regraft_now, "last-bud-now" => :last_bud_now, "again" => :again,
                   "again-next" => :again_next, "bud-next" => :bud_next, "lost-winter" => :lost_winter,
                   "parted" => :parted, "long-seen" => :long_seen,
                   **SEEN.to_h { |name, point| [name, [:last_seen, *point]] } }.freeze
        # What a visit or a count can answer, by the points that answer it.
        ANSWERS = { "count" => nil, "look" => %i[buds callus verdict], "taking" => %i[buds callus verdict],
                    "stalk" => %i[leaf_stalk verdict], "callus" => %i[callus verdict], "seal" => %i[seal],
                    "wrap" => %i[wrap], "pests" => %i[pests], "stock-shoots" => %i[stock_shoots] }.freeze
        # How it can stand.
        STATES = %w[knitting false-start callused sleeping waiting late growing failed].freeze

        # @param graft [Hash] with its +counts+ and +lost_on+ in it
        # @param observations [Array<Hash>] visits, in order
        # @param climate [Climate]
        # @param done [Array<Hash>] what a person did, waived or put off
        def initialize(graft, observations, climate, school, today, rulebook, done: [])
          @graft = graft
          @done = done
          @observations = observations.select { |each| each[:on] <= today }
          @climate = climate
          @school = school
          @today = today
          @rulebook = rulebook
          @season = Season.new(southern: graft[:southern])
          @events = {}
          @recorded_on = [*observations, *counts, *done].map { |each| each[:on] }.push(graft[:lost_on])
        end

        private

        # The first day after this one of which something is written down.
        def next_recorded_on = @recorded_on.select { |day| day && day > @today }.min

        def state
          @state ||=
            if failed_on then "failed"
            elsif took? && !asleep_yet? then "growing"
            elsif moved_early_on then "false-start"
            elsif sleeping? then "sleeping"
            elsif @today < knit[:on] then "knitting"
            elsif callused_on && (kind == "approach" || !moving?) then "callused"
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
        def took?
          return true if outcome[:took]

          moved_early_on ? Care.proven?(@observations, @rulebook) : @observations.any? { |each| grown?(each) }
        end

        def grown?(visit)
          Care.took?(visit, knit[:on], kind: kind, parted_on: parted_on, rulebook: @rulebook)
        end

        CALLUSED = %w[some full].freeze
        private_constant :CALLUSED

        # Since when callus was seen.
        def callused_on = @observations.find { |each| CALLUSED.include?(each[:callus]) }&.fetch(:on)
        # Whether its buds moved when they were last looked at.
        def moving? = MOVING.include?(@observations.reverse.find { |each| each[:buds] }&.fetch(:buds))
        # A bud whose leaf stalk fell at a touch lives, and so does one that was seen to have knit, or was called alive.
        # It sleeps until spring.
        def sleeping?
          return false unless kind == "bud" && @today < sleeps_until

          took? || @observations.any? { |each| each[:leaf_stalk] == "falls" } ||
            (!callused_on.nil? && @today >= knit[:on] && !moving?)
        end

        # Whether it is a bud that was called alive before it was to wake, and nothing more is known of it.
        def asleep_yet?
          kind == "bud" && @today < sleeps_until && SleepingBud.asleep?(@observations, counts, waking.first)
        end

        # So long a living bud is looked for in spring.
        def sleeps_until = waking.first + closing("bud-growth")

        # What is joined to a rooted plant is in leaf by that one's root.
        def moved_early_on
          return if kind == "approach"

          first = @observations.find { |each| MOVING.include?(each[:buds]) }
          first[:on] if first && first[:on] < knit[:on] && !%w[some full].include?(first[:callus])
        end

        def knit
          @knit ||= @climate.knit(@graft[:species], @graft[:grafted_on], @today,
                                  offset_c: @rulebook.value("care.figures.cover_warms").fetch(fact("cover"), 0).to_f)
        end

        # Until when nothing need move: a bud sleeps through its first winter.
        def patience_on
          kind == "bud" ? waking.first + closing("bud-head") : knit[:on] + species_figure("knit_margin")
        end

        # The day an event fell or is expected, and how that is known.
        def event(name) = @events.fetch(name) { @events[name] = send(*EVENTS.fetch(name)) }

        def grafted = [@graft[:grafted_on], "fact"]
        def knitted = [knit[:on], knit[:basis]]
        def patience = [patience_on, knit[:basis]]

        # What is made while its stock sleeps has nothing grow on it before shoots push in an ordinary year.
        def pushing
          made = @graft[:grafted_on]
          year = Leaf.year_at_hand(made, @season, @rulebook, spring_later)
          pushed = Leaf.pushing(year.begin, @graft[:species], @season, @rulebook, place) unless evergreen?
          pushed && pushed > made ? [pushed, "calendar"] : grafted
        end

        # Not expected within so many days of a look that saw it asleep.
        def leafed
          seen { |each| leaves?(each) } ||
            [[kind == "bud" ? waking.first : knit[:on], *asleep_on].max + figure("leafed_after_knit"), "expected"]
        end

        def leaves?(visit)
          visit[:buds] == "leafing" && visit[:on] >= knit[:on] || visit[:verdict] == "took" && awake?(visit)
        end

        # Whether what is seen alive grows: a bud sleeps until spring.
        def awake?(visit) = kind != "bud" || visit[:on] >= waking.first || SleepingBud.grew?(visit)

        def asleep_on
          last = @observations.reverse.find { |each| each[:buds] }
          last[:on] if last && last[:buds] == "asleep"
        end

        def hand
          seen { |each| (each[:longest_shoot_mm] || 0) >= figure("hand") } ||
            [event("leafed").first + figure("hand_after_leafed"), "expected"]
        end

        def failed = failed_on && [failed_on, "seen"]
        def moved = moved_early_on && [moved_early_on, "seen"]
        def shaded = moved_early_on && [moved_early_on + figure("shade_days"), "seen"]

        # From when another is made in the season in which it was found dead: one of an earlier season waits for spring.
        def again
          return nil if failed_on.nil?

          older? && failed_on < spring_after ? [spring_after, "calendar"] : [failed_on, "seen"]
        end

        # The spring after that season.
        def again_next = failed_on && [spring_after >> 12, "calendar"]

        # When its regrowth is budded: after the last day for another graft, when buds are ripe, while a bud can knit.
        def too_late
          return nil if failed_on.nil?

          bud_again([failed_on, (then_of(regraft_until) + 1 if time_left?)].compact.max)
        end

        # When a dead bud is set again: while buds are ripe and can knit, in the season in which it was found dead.
        def rebud = failed_on && bud_again(failed_on)

        def bud_again(from)
          day = [from, in_failing_season("late-summer")].max
          day <= then_of(bud_until) ? [day, "calendar"] : nil
        end

        # The summer after that season.
        def bud_next = failed_on && [in_failing_season("late-summer") >> 12, "calendar"]

        # The winter in which another is planned: the one that was not over, of one of an earlier season, else the next.
        def lost_winter
          return nil if failed_on.nil?

          winter = in_failing_season("winter")
          [older? && failed_on < spring_after ? winter : winter >> 12, "calendar"]
        end

        def in_failing_season(name) = @season.next_day(calendar(name), @season.year_start(failed_on))
        def spring_after = in_failing_season("again") + spring_later
        def older? = @season.name_of(failed_on) > @season.name_of(@graft[:grafted_on])

        # The last sensible days for another graft, and for a bud on its regrowth, of the season that runs.
        def regraft_until = @graft[:regraft_until] || RegraftDay.last(@season, at_hand, @rulebook)
        def bud_until = @graft[:bud_until] || @season.next_day(calendar("last-bud"), @season.year_start(at_hand))
        # Those of the season in which it was found dead, and of the season that runs.
        def last_regraft = [failed_on ? then_of(regraft_until) : regraft_until, "calendar"]
        def last_bud = [failed_on ? then_of(bud_until) : bud_until, "calendar"]
        def last_regraft_now = [regraft_until, "calendar"]
        def last_bud_now = [bud_until, "calendar"]
        def at_hand = @season.at_hand(@graft[:grafted_on], @today)

        # The same day in the season in which it was found dead.
        def then_of(day) = day >> 12 * (@season.name_of(failed_on) - @season.name_of(at_hand))

        def callused = callused_on && [callused_on, "seen"]

        # An approach graft that has callus all round, six weeks on.
        def joined
          full = @observations.find { |each| each[:callus] == "full" }&.fetch(:on)
          full && [[full, @graft[:grafted_on] + figure("approach_days")].max, "seen"]
        end

        # When its donor was cut half through, or that was left out; else when the time for it is over.
        def halved
          return unless event("joined")

          done = settled_on("approach-half")
          done ? [done, "fact"] : [event("joined").first + closing("approach-half"), "expected"]
        end

        # When an approach graft was cut from its donor.
        def parted = parted_on && [parted_on, "fact"]
        def parted_on = done_on("approach-off")

        # When a task was done by a person.
        def done_on(rule) = settled_on(rule, %w[done])

        # When it was done or left out.
        def settled_on(rule, ways = %w[done waived])
          @done.find { |each| each[:key].split(":").first == rule && ways.include?(each[:what] || "done") }&.fetch(:on)
        end

        # Since when its stub has all but closed, and since when it carries itself as a limb.
        def closed = @graft[:closed_on] && [@graft[:closed_on], "seen"]
        def scaffold = @graft[:scaffold_on] && [@graft[:scaffold_on], "seen"]

        # When a bud wakes: in the spring after it was set, or once it has joined where a shoot can still harden.
        def waking
          joined = @graft[:grafted_on] + figure("approach_days")
          return [joined, "expected"] if wakes_at_once?(joined)

          [[@season.next_day(calendar("waking"), joined) + spring_later, joined].max, "calendar"]
        end

        # A bud of wood that slept in its store does not sleep again: one of this summer's growth does.
        def wakes_at_once?(joined)
          last = RegraftDay.last(@season, @graft[:grafted_on], @rulebook)
          joined <= last && !@rulebook.method_fact(@graft[:method], "fresh_wood")
        end

        def spring
          winter = event("winter").first
          [[@season.next_day(calendar("spring"), winter) + spring_later, winter].max, "calendar"]
        end

        # By how many days spring comes later at its place than in the calendar; nothing where that is not known.
        def spring_later
          @spring_later ||= Leaf.later(@graft[:species], place, @rulebook)
        end
        def autumn = [next_calendar("autumn"), "calendar"]
        # The autumn of the summer in which it first grows: a bud sleeps through one that comes before.
        def summer_over
          return event("autumn") unless kind == "bud"

          leaf = Leaf.year_at_hand(grown_on || event("waking").first, @season, @rulebook, spring_later)
          [next_calendar("autumn", leaf.begin), "calendar"]
        end
        # The first winter that finds a summer's growth on it: a bud sleeps through one that comes before.
        def winter
          from = kind == "bud" ? grown_on || event("waking").first : @graft[:grafted_on] + figure("winter_after")
          [next_calendar("winter", from), "calendar"]
        end

        def grown_on
          @observations.find { |each| each[:buds] == "leafing" || each[:longest_shoot_mm].to_f.positive? }&.fetch(:on)
        end

        def heat = weather(@climate.heat(@graft[:grafted_on], @today))

        def gale
          young? && weather(@climate.gale(@graft[:grafted_on] + 1, @today, within: closing("after-gale")))
        end

        # A dry spell while leaf is on; while it lasts it is told anew whenever the last soak is used up.
        def drought
          return unless young? && (evergreen? || Leaf.year_of(@today, @season, @rulebook, spring_later))

          dry, soak = @climate.dry(@graft[:grafted_on], @today), figure("soak_days")
          weather(dry && dry + (@today - dry).to_i / soak * soak)
        end

        # Whether weather can still harm it more than the limb it stands on.
        def young? = @today - @graft[:grafted_on] <= figure("young_days")

        def frost
          return unless young?

          moved = @observations.select { |each| MOVING.include?(each[:buds]) }.map { |each| each[:on] }
          return if moved.empty?

          weather(@climate.frost(moved.first, @today, within: closing("after-frost")) do |date|
            Leaf.soft?(date, @graft[:species], @season, @rulebook, place: place, moved: moved)
          end)
        end

        def snapped = flagged(:snapped)
        def fruit_seen = flagged(:fruit)

        # When a shoot was last seen that is a sail in its first summer.
        def long_seen
          last = @observations.reverse.find { |each| each[:longest_shoot_mm] } or return
          [last[:on], "seen"] if last[:longest_shoot_mm] > figure("shorten") && last[:on] < event("winter").first
        end

        def weather(day) = day && [day, "weather"]
        # So long after it a task is still open: the event is not forgotten before.
        def closing(rule) = @rulebook.task(rule)["closes"]

        # A flag of the latest visit alone: an earlier one was answered or is out of date.
        def flagged(name) = @observations.last&.then { |each| each[name] ? [each[:on], "seen"] : nil }

        # The first visit or count from a day on that says what a task asks for.
        def answered(what, from)
          names = ANSWERS.fetch(what)
          return counts.map { |each| each[:on] }.select { |on| on >= from && on <= @today }.min unless names

          later = @observations.find { |each| each[:on] >= from && names.any? { |name| each[name] } }&.fetch(:on)
          later || (taken_on if what == "taking")
        end

        # The first visit that saw a living graft take: it says all that a first look asks.
        def taken_on
          return unless took?

          (@observations.find { |each| each[:verdict] == "took" || grown?(each) } || @observations.last)&.fetch(:on)
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

        def time_left? = failed_on.nil? || failed_on <= then_of(regraft_until)

        def fact(point)
          case point
          when "kind" then kind
          when "evergreen" then evergreen? ? "yes" : "no"
          when *CONDITIONS.keys then send(CONDITIONS[point]) ? "yes" : "no"
          else practised(point)
          end
        end

        # What holds of it or does not.
        CONDITIONS = { "filled" => :filled?, "trained" => :trained?, "several-sticks" => :several_sticks?,
                 "braced" => :braced?, "time-left" => :time_left?, "planned-again" => :planned_again?, "room" => :room?,
                 "too-young" => :too_young?, "head-off" => :head_off?, "on-donor" => :on_donor?,
                 "first-summer" => :first_summer?, "moving" => :moving?, "slit" => :slit? }.freeze
        private_constant :CONDITIONS

        def place = @graft[:latitude_deg] && [@graft[:latitude_deg], @graft[:altitude_m] || 0]
        def evergreen? = @rulebook.evergreen?(@graft[:species])
        def filled? = @graft[:filled]
        def trained? = @graft[:trained]
        def several_sticks? = @graft[:sticks] > 1
        # Until the brace is off again.
        def braced?
          (@graft[:brace] || %w[brace brace-after-year].any? { |rule| done_on(rule) }) && done_on("brace-off").nil?
        end
        def planned_again? = @graft[:planned_again]
        def room? = !@graft[:no_room]
        def head_off? = @graft[:head_off]
        def too_young? = seasons <= @rulebook.fruitless_seasons(@school)
        def on_donor? = parted_on.nil?
        # Whether what held it was let go.
        def slit? = %w[slit-tape slit-now bud-tie untie approach-head approach-slit].any? { |rule| done_on(rule) }
        def first_summer? = event("leafed").first < event("winter").first

        # As it was finished, else as the school does it; nil where its kind knows no such thing.
        def practised(point)
          return unless Graft::GraftKind.asks?(kind, point, @rulebook)

          @graft[point.to_sym] || @rulebook.practice(point, @school)
        end

        def kind = @kind ||= Graft::GraftKind.of(@graft[:method], headed: @graft[:headed], rulebook: @rulebook)

        # Growing seasons so far, the first its own.
        def seasons = @season.name_of(@today) - @season.name_of(@graft[:grafted_on]) + 1

        def figure(name) = @rulebook.value("care.figures.#{name}")
        def calendar(name) = @rulebook.value("care.calendar.#{name}")
        def next_calendar(name, from = @graft[:grafted_on]) = @season.next_day(calendar(name), from)
        def species_figure(name) = @rulebook.value("species.#{@graft[:species]}.#{name}")
      end
    end
  end
end
