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
        LEAF_STALKS = %w[falls clings].freeze
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
            number :latitude_deg, unit: "degrees", least: -90, most: 90, optional: true, help: "for when spring comes"
            number :altitude_m, unit: "m", optional: true
            flag :brace, default: false
            flag :trained, default: false, help: "on a tree trained to a wall"
            flag :headed, default: true, help: "it stands on a stub: the limb above it was cut off"
            flag :head_off, default: false, help: "the head was taken off above it since"
            flag :filled, default: false, help: "it is set into a bare stretch, and no head above it is to come off"
            flag :planned_again, default: false, help: "it was lost, and decided since, or another is there"
            flag :no_room, default: false, help: "its stub is too near the fork to be cut again"
            date :regraft_until, optional: true,
                                 help: "last sensible day, this season, to make it again; else by the calendar"
            date :closed_on, optional: true, help: "since when its stub has all but closed"
            date :scaffold_on, optional: true, help: "since when it carries itself as a limb"
            date :bud_until, optional: true,
                             help: "last sensible day, this season, to bud its regrowth; else by the calendar"
          end
          list :observations, default: [].freeze, help: "visits to the graft" do
            date :on
            name :buds, BUDS, optional: true
            name :callus, CALLUS, optional: true
            number :longest_shoot_mm, unit: "mm", least: 0, optional: true
            name :leaf_stalk, LEAF_STALKS, optional: true, help: "of a bud: falls at a touch, or clings dry"
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
          weather :earlier, default: [].freeze, help: "days of earlier years, for those to come"
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
        # knit, or its shoot is a hand long. What is joined to a rooted plant grows on that one's root: of it only what
        # someone says, or that it goes on moving when it was cut from that one for as long as a false start lasts.
        #
        # @param visit [Hash] as the contract's observations
        # @param knit_on [Date]
        # @param kind [String] of Graft::GraftKind
        # @param parted_on [Date, nil] when it was cut from its donor
        def self.took?(visit, knit_on, kind: "stub", parted_on: nil, rulebook: Rulebook.shipped)
          return true if visit[:verdict] == "took"

          if kind == "approach"
            return !parted_on.nil? && GraftLife::MOVING.include?(visit[:buds]) &&
                   visit[:on] >= parted_on + rulebook.value("care.figures.probation")
          end

          (visit[:on] >= knit_on && visit[:buds] == "leafing") ||
            (visit[:longest_shoot_mm] || 0) >= rulebook.value("care.figures.hand")
        end

        # Whether a graft whose buds moved too soon lives after all: callus was seen, or its shoot a hand long at two
        # visits ten days apart. Leaves alone prove nothing.
        #
        # @param observations [Array<Hash>] as the contract has them
        def self.proven?(observations, rulebook = Rulebook.shipped)
          return true if observations.any? { |each| %w[some full].include?(each[:callus]) }

          long = observations.select { |each| (each[:longest_shoot_mm] || 0) >= rulebook.value("care.figures.hand") }
            .map { |each| each[:on] }
          long.size > 1 && long.max - long.min >= rulebook.value("care.figures.probation")
        end

        # @return [Hash] +tasks+, each with +key+, +rule+, +opens_on+, +due_on+, +closes_on+, +status+
        #   (ahead, open, late, passed, done, waived), +reasons+ and +settled_on+ where it is done or waived, in order
        #   of their due day; +state+ (knitting, false-start, callused, sleeping, waiting, late, growing, failed),
        #   +knit_on+, +knit_basis+, +knit_share+, +patience_on+ (until when nothing need move), +waking_on+ (of a bud:
        #   when it wakes), +kind+ (of Graft::GraftKind), +parted_on+ (of an approach: when its donor was cut off),
        #   +moving+ (whether its buds moved when they were last looked at), +shortened_on+ (when its shoots were last
        #   shortened), +braced+, +limb+ (whether it carries itself as one) and +valid_until+: nothing but each task's
        #   own days changes this answer until after it
        def self.call(graft:, today:, observations: [], counts: [], lost_on: nil, weather: [], earlier: [], done: [],
                      school: nil, rulebook: Rulebook.shipped)
          of(graft.merge(counts: counts, lost_on: lost_on), observations,
             Climate.new(weather, rulebook, earlier: -> { earlier }), done, school, today, rulebook)
        end

        # The same over weather that was read once for many grafts.
        #
        # @param graft [Hash] with its +counts+ and +lost_on+ in it
        # @param climate [Climate]
        def self.of(graft, observations, climate, done, school, today, rulebook)
          seen = observations.sort_by.with_index { |each, place| [each[:on], place] }
          Schedule.new(graft, seen, climate, school, today, rulebook, done: done)
            .answer
        end

        # What is to be done at one graft.
        class Schedule < GraftLife
          FAR = 3650

          # The answer of the reckoning, over one graft's facts.
          def answer
            rules = Rules.new(@rulebook.rules("care"), done: @done, today: @today,
                              event: method(:event), fact: method(:fact), needed: method(:needed?),
                              answered: method(:answered))
            tasks = rules.tasks
            { tasks: tasks, state: state, **knitting, waking_on: (waking.first if kind == "bud"), kind: kind,
              parted_on: (parted_on if kind == "approach"), moving: moving?,
              shortened_on: %w[shorten long-shoot].filter_map { |name| done_on(name) }.max, braced: braced?,
              limb: limb?,
              valid_until: valid_until(tasks, rules.told_next) }
          end

          private

          def knitting
            { knit_on: knit[:on], knit_basis: knit[:basis], knit_share: knit[:share], patience_on: patience_on }
          end

          # A rule that names states holds in those; any other holds until the graft is lost.
          # What a growing graft needs is told ahead while it may still take, and asked once it was seen to.
          def needed?(rule)
            needs = rule["needs"]
            return state != "failed" unless needs
            return true if needs.include?(state)

            :ahead if needs.include?("growing") && %w[knitting waiting].include?(state) ||
                      needs.include?("waiting") && state == "knitting"
          end

          def limb? = !scaffold.nil? && scaffold.first <= @today

          # Until the next day on which the state turns or another round begins; day by day while the
          # knitting still hangs on temperatures to come.
          def valid_until(tasks, told_next)
            return @today if knit[:basis] == "temperature-so-far" && @today <= patience_on

            turns = [*state_turns, *event("winter")&.first, *told_next,
                     @season.next_day("11-01", @today), *weather_turns, *not_yet(tasks)].map { |day| day - 1 }
            turns += tasks.select { |task| task[:key].match?(/:\d+\z/) && %w[ahead open late].include?(task[:status]) }
              .map do |task|
              task[:closes_on]
            end
            turns.select { |day| day >= @today }.min || @today + FAR
          end

          # What was written down of a later day turns it on that day.
          def state_turns = [knit[:on], patience_on, *(sleeps_until if kind == "bud"), *next_recorded_on]

          # When what is told ahead would open, and is not asked yet.
          def not_yet(tasks)
            tasks.select { |task| task[:status] == "ahead" && needed?(@rulebook.task(task[:rule])) == :ahead }
              .map { |task| task[:opens_on] }
          end

          # When leaf comes on or is down, a dry spell that lasts asks for water again, and weather harms it no more.
          def weather_turns
            return [] unless young?

            [*Leaf.turns(@today, @season, @rulebook, spring_later), *event("drought")&.first&.+(figure("soak_days")),
             @graft[:grafted_on] + figure("young_days") + 1]
          end
        end
        private_constant :Schedule
      end
    end
  end
end
