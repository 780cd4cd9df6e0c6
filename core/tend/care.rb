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

        contract "care", "What one graft needs, from when, by when, and why" do
          record :graft do
            date :grafted_on
            name :method, -> { Rulebook.shipped.stub_methods }
            name :species, -> { Rulebook.shipped.species_names }
            name :wrap, -> { Care.choices("wrap") }, optional: true, help: "else the school's"
            name :seal, -> { Care.choices("seal") }, optional: true, help: "else the school's"
            name :cover, -> { Care.choices("cover") }, optional: true, help: "else the school's"
            integer :sticks, above: 0, default: 1
            flag :southern, default: false, help: "south of the equator"
          end
          list :observations, default: [].freeze, help: "visits to the graft" do
            date :on
            name :buds, BUDS, optional: true
            name :callus, CALLUS, optional: true
            number :longest_shoot_mm, unit: "mm", least: 0, optional: true
            name :verdict, VERDICTS, optional: true
          end
          list :weather, default: [].freeze, help: "days from the grafting day" do
            date :date
            number :min_c, unit: "°C"
            number :max_c, unit: "°C"
          end
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

        # @return [Hash] +tasks+, each with +key+, +opens_on+, +due_on+, +closes_on+, +status+
        #   (ahead, open, late, passed, done, waived) and +reasons+, in order of their due day;
        #   +state+ (knitting, false-start, waiting, late, growing, failed), +knit_on+, +knit_basis+
        def self.call(graft:, today:, observations: [], weather: [], done: [], school: nil, rulebook: Rulebook.shipped)
          Schedule.new(graft, observations.sort_by { |each| each[:on] }, weather, done, school, today, rulebook).answer
        end

        # One graft's facts, and what follows from them.
        class Schedule
          MOVING = %w[swelling leafing].freeze

          def initialize(graft, observations, weather, done, school, today, rulebook)
            @graft = graft
            @observations = observations.select { |each| each[:on] <= today }
            @weather = weather
            @done = done
            @school = school
            @today = today
            @rulebook = rulebook
            @season = Season.new(southern: graft[:southern])
          end

          def answer
            rules = Rules.new(@rulebook.book("care").fetch("rules"), done: @done, today: @today, event: method(:event), fact: method(:fact), needed: method(:needed?))
            { tasks: rules.tasks, state: state, knit_on: knit[:on], knit_basis: knit[:basis], knit_share: knit[:share] }
          end

          private

          def state
            @state ||=
              if failed_on then "failed"
              elsif took? then "growing"
              elsif moved_early_on then "false-start"
              elsif @today < knit[:on] then "knitting"
              elsif @today < patience_on then "waiting"
              else "late"
              end
          end

          # The last word counts: a stick written off and later seen in leaf is alive.
          def failed_on
            last = @observations.reverse.find { |each| each[:verdict] || each[:buds] }
            return nil unless last && (last[:verdict] == "failed" || (last[:buds] == "dead" && last[:verdict] != "wait"))

            last[:on]
          end

          def took?
            @observations.any? do |each|
              each[:verdict] == "took" || (each[:on] >= knit[:on] && each[:buds] == "leafing") ||
                (each[:longest_shoot_mm] || 0) >= figure("hand")
            end
          end

          def moved_early_on
            first = @observations.find { |each| MOVING.include?(each[:buds]) }
            first[:on] if first && first[:on] < knit[:on] && !%w[some full].include?(first[:callus])
          end

          def knit = @knit ||= Knit.of(@graft[:species], @graft[:grafted_on], @weather, @rulebook)

          def patience_on = knit[:on] + species_figure("knit_margin")

          # The day an event fell or is expected, and how that is known.
          def event(name)
            case name
            when "grafted" then [@graft[:grafted_on], "fact"]
            when "knit" then [knit[:on], knit[:basis]]
            when "patience" then [patience_on, knit[:basis]]
            when "leafed" then seen { |each| each[:buds] == "leafing" && each[:on] >= knit[:on] || each[:verdict] == "took" } ||
                               [knit[:on] + figure("leafed_after_knit"), "expected"]
            when "hand" then seen { |each| (each[:longest_shoot_mm] || 0) >= figure("hand") } ||
                             [event("leafed").first + figure("hand_after_leafed"), "expected"]
            when "failed" then [failed_on, "seen"]
            when "moved" then [moved_early_on, "seen"]
            when "spring" then [@season.next_day(calendar("spring"), event("winter").first), "calendar"]
            when "autumn", "winter" then [@season.next_day(calendar(name), @graft[:grafted_on]), "calendar"]
            end
          end

          def seen
            found = @observations.find { |each| yield each }
            found && [found[:on], "seen"]
          end

          def fact(point)
            return @graft[:sticks] > 1 ? "yes" : "no" if point == "several-sticks"

            @graft[point.to_sym] || @rulebook.practice(point, @school)
          end

          # A rule that names states holds in those; any other holds until the graft is lost.
          # What a growing graft needs is shown ahead while it may still take.
          def needed?(rule)
            needs = rule["needs"]
            return state != "failed" unless needs
            return true if needs.include?(state)

            needs.include?("growing") && %w[knitting waiting].include?(state) ||
              needs.include?("waiting") && state == "knitting"
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
