# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # The aftercare of one graft: what is to be done, from when, by when, and why,
      # reckoned from the facts each time it is asked for. The rules are rulebook/care.yml.
      module Care
        extend Reckoning

        BUDS = %w[asleep swelling leafing dead].freeze
        CALLUS = %w[none some full].freeze
        VERDICTS = %w[took wait failed].freeze
        # What a visit may say besides, and what of it asks for something.
        SEALS = %w[sound cracked gone].freeze
        WRAPS = %w[sound loose biting].freeze
        STOCK_SHOOTS = %w[none some many].freeze
        PESTS = %w[none aphids caterpillars other].freeze

        contract "care", "What one graft needs, from when, by when, and why" do
          record :graft do
            date :grafted_on
            name :method, -> { Rulebook.shipped.stub_methods }
            name :species, -> { Rulebook.shipped.species_names }
            name :wrap, -> { Care.choices("wrap") }, optional: true, help: "else the school's"
            name :seal, -> { Care.choices("seal") }, optional: true, help: "else the school's"
            name :cover, -> { Care.choices("cover") }, optional: true, help: "else the school's"
            integer :sticks, above: 0, most: 12, default: 1
            flag :southern, default: false, help: "south of the equator"
            flag :brace, default: false
          end
          list :observations, default: [].freeze, help: "visits to the graft" do
            date :on
            name :buds, BUDS, optional: true
            name :callus, CALLUS, optional: true
            number :longest_shoot_mm, unit: "mm", least: 0, optional: true
            name :verdict, VERDICTS, optional: true
            name :seal, SEALS, optional: true
            name :wrap, WRAPS, optional: true
            name :stock_shoots, STOCK_SHOOTS, optional: true
            name :pests, PESTS, optional: true
            flag :snapped, default: false, help: "a shoot broke above a live stick"
            flag :fruit, default: false
          end
          list :counts, default: [].freeze, help: "autumn counts of it" do
            date :on
            flag :alive
          end
          date :lost_on, optional: true, help: "a loss that was recorded"
          weather :weather, default: [].freeze, help: "days from the grafting day"
          list :done, default: [].freeze, help: "what a person did or waived" do
            text :key
            date :on
            name :what, %w[done waived put-off], default: "done"
            date :until, optional: true, help: "for what was put off"
            text :why, optional: true
          end
          name :school, -> { Rulebook.shipped.school_names }, optional: true
          date :today
        end

        # @param point [String] a practice point
        # @return [Array<String>] its choices
        def self.choices(point) = Rulebook.shipped.book("schools").dig("points", point, "choices").keys

        # Whether a visit shows that a graft took: someone says so, it is in leaf once callus can have
        # knit, or its shoot is a hand long.
        #
        # @param visit [Hash] as the contract's observations
        # @param knit_on [Date]
        def self.took?(visit, knit_on, rulebook = Rulebook.shipped)
          visit[:verdict] == "took" || (visit[:on] >= knit_on && visit[:buds] == "leafing") ||
            (visit[:longest_shoot_mm] || 0) >= rulebook.value("care.figures.hand")
        end

        # @return [Hash] +tasks+, each with +key+, +rule+, +opens_on+, +due_on+, +closes_on+, +status+
        #   (ahead, open, late, passed, done, waived) and +reasons+, in order of their due day;
        #   +state+ (knitting, false-start, waiting, late, growing, failed), +knit_on+, +knit_basis+, +knit_share+
        #   and +valid_until+: nothing but each task's own days changes this answer until after it
        def self.call(graft:, today:, observations: [], counts: [], lost_on: nil, weather: [], done: [], school: nil,
                      rulebook: Rulebook.shipped)
          of(graft.merge(counts: counts, lost_on: lost_on), observations, Climate.new(weather, rulebook), done, school,
             today, rulebook)
        end

        # The same over weather that was read once for many grafts.
        #
        # @param graft [Hash] with its +counts+ and +lost_on+ in it
        # @param climate [Climate]
        def self.of(graft, observations, climate, done, school, today, rulebook)
          Schedule.new(graft, observations.sort_by { |each| each[:on] }, climate, done, school, today, rulebook).answer
        end

        # One graft's facts, and what follows from them.
        class Schedule
          MOVING = %w[swelling leafing].freeze
          SEEN = { "cracked" => [:seal, %w[cracked gone]], "loose" => [:wrap, %w[loose]],
                   "biting" => [:wrap, %w[biting]], "stock-seen" => [:stock_shoots, %w[many]],
                   "pests" => [:pests, %w[aphids caterpillars other]] }.freeze
          FAR = 3650

          def initialize(graft, observations, climate, done, school, today, rulebook)
            @graft = graft
            @observations = observations.select { |each| each[:on] <= today }
            @climate = climate
            @done = done
            @school = school
            @today = today
            @rulebook = rulebook
            @season = Season.new(southern: graft[:southern])
            @events = {}
          end

          # The answer of the reckoning, over one graft's facts.
          def answer
            tasks = Rules.new(@rulebook.book("care").fetch("rules"), done: @done, today: @today, event: method(:event),
                              fact: method(:fact), needed: method(:needed?), answered: method(:answered)).tasks
            { tasks: tasks, state: state, knit_on: knit[:on], knit_basis: knit[:basis], knit_share: knit[:share],
              valid_until: valid_until(tasks) }
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
          def event(name) = @events.fetch(name) { @events[name] = find(name) }

          def find(name)
            case name
            when "grafted" then [@graft[:grafted_on], "fact"]
            when "knit" then [knit[:on], knit[:basis]]
            when "patience" then [patience_on, knit[:basis]]
            when "leafed" then seen { |each| each[:buds] == "leafing" && each[:on] >= knit[:on] ||
                                      each[:verdict] == "took" } ||
                               [knit[:on] + figure("leafed_after_knit"), "expected"]
            when "hand" then seen { |each| (each[:longest_shoot_mm] || 0) >= figure("hand") } ||
                             [event("leafed").first + figure("hand_after_leafed"), "expected"]
            when "failed" then failed_on && [failed_on, "seen"]
            when "too-late" then failed_on && !time_left? ?
              [[failed_on, @season.next_day(calendar("late-summer"), @graft[:grafted_on])].max, "calendar"] : nil
            when "moved" then moved_early_on && [moved_early_on, "seen"]
            when "spring" then [@season.next_day(calendar("spring"), event("winter").first), "calendar"]
            when "autumn", "winter" then [@season.next_day(calendar(name), @graft[:grafted_on]), "calendar"]
            when "heat" then weather(@climate.heat(@graft[:grafted_on], @today))
            when "gale" then weather(@climate.gale(event("leafed").first, @today, within: closing("after-gale")))
            when "frost" then (from = first_moved) && weather(@climate.frost(from, @today,
              within: closing("after-frost")))
            when "drought" then weather(@climate.dry(@graft[:grafted_on], @today))
            when "snapped", "fruit-seen" then flagged(name == "snapped" ? :snapped : :fruit)
            else last_seen(*SEEN.fetch(name))
            end
          end

          def weather(day) = day && [day, "weather"]
          # So long after it a task is still open: the event is not forgotten before.
          def closing(rule) = @rulebook.task(rule)["closes"]
          def first_moved = @observations.find { |each| MOVING.include?(each[:buds]) }&.fetch(:on)

          # A flag of the latest visit alone: an earlier one was answered or is out of date.
          def flagged(name) = @observations.last&.then { |each| each[name] ? [each[:on], "seen"] : nil }

          # The first visit from a day on that says what a task asks for.
          def answered(what, from)
            return counts.map { |each| each[:on] }.select { |on| on >= from && on <= @today }.min if what == "count"

            names = { "look" => %i[buds callus verdict], "seal" => %i[seal], "pests" => %i[pests],
                      "stock-shoots" => %i[stock_shoots] }.fetch(what)
            @observations.find { |each| each[:on] >= from && names.any? { |name| each[name] } }&.fetch(:on)
          end

          # The latest word on something, when it asks for work.
          def last_seen(name, values)
            last = @observations.reverse_each.find { |each| each[name] }
            last && values.include?(last[name]) ? [last[:on], "seen"] : nil
          end

          def seen
            found = @observations.find { |each| yield each }
            found && [found[:on], "seen"]
          end

          def time_left?
            failed_on.nil? || failed_on <= @season.next_day(calendar("last-regraft"), @graft[:grafted_on])
          end

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

          # A rule that names states holds in those; any other holds until the graft is lost.
          # What a growing graft needs is shown ahead while it may still take.
          def needed?(rule)
            needs = rule["needs"]
            return state != "failed" unless needs
            return true if needs.include?(state)

            needs.include?("growing") && %w[knitting waiting].include?(state) ||
              needs.include?("waiting") && state == "knitting"
          end

          # Until the next day on which the state turns or another round begins; day by day while the
          # knitting still hangs on temperatures to come.
          def valid_until(tasks)
            return @today if knit[:basis] == "temperature-so-far" && @today <= patience_on

            turns = [knit[:on], patience_on, *event("winter")&.first, @season.next_day("11-01", @today)].map do |day|
              day - 1
            end
            turns += tasks.select { |task| task[:key].match?(/:\d+\z/) && %w[ahead open late].include?(task[:status]) }
              .map do |task|
              task[:closes_on]
            end
            turns.select { |day| day >= @today }.min || @today + FAR
          end

          def figure(name) = @rulebook.value("care.figures.#{name}")
          def calendar(name) = @rulebook.value("care.calendar.#{name}")
          def species_figure(name) = @rulebook.value("species.#{@graft[:species]}.#{name}")
        end
        private_constant :Schedule
      end
    end
  end
end
