# frozen_string_literal: true

module Vestry
  module Core
    module Repair
      # What a wounded trunk needs from the day it is found: cover, the repair, its aftercare, and how
      # it stands. The rules are rulebook/repair.yml.
      module Mending
        extend Reckoning

        COURSES = %w[dress bridge inarch cut-back stump-graft].freeze
        # Those that set scions or stocks into the trunk, by which it comes to feed its roots again.
        BRIDGED = %w[bridge inarch].freeze
        # Those that cut the stem across below its wound.
        CUT = %w[cut-back stump-graft].freeze
        CAUSES = %w[teeth strimmer sun frost other].freeze
        LEAVES = %w[full thin none].freeze
        FATES = %w[alive dead].freeze
        STATES = %w[bare covered knitting unseen holding failing mended cut lost].freeze
        # What its rules hang on, and what says when that was.
        EVENTS = { "found" => :found, "covered" => :covered, "slips" => :slips, "closes" => :closes,
                   "sleeps" => :sleeps, "repaired" => :repaired, "knit" => :knitted, "scion-died" => :died,
                   "set-later" => :set_later, "knit-later" => :knit_later, "autumn-later" => :autumn_later,
                   "slips-again" => :slips_again, "closes-again" => :closes_again, "slips-next" => :slips_next,
                   "autumn" => :autumn, "winter" => :winter, "before-winter" => :before_winter,
                   "second-spring" => :second_spring }.freeze
        # What answers a rule: a look at scions, as many set as died, or any that were set.
        ANSWERS = { "fates" => :looked_on, "replaced" => :replaced_on, "set" => :set_from }.freeze
        # Those of them that are a deed, and no visit.
        DEEDS = %w[replaced set].freeze

        contract "mending", "What a wounded trunk needs, from when, by when, and how it stands" do
          name :course, COURSES
          name :cause, CAUSES, default: "other"
          name :species, -> { Rulebook.shipped.species_names }
          number :girdled_share, least: 0, most: 1
          date :found_on
          date :covered_on, optional: true
          date :repaired_on, optional: true
          date :slips_on, help: "bark slips from about this day, this season"
          date :closes_on, optional: true, help: "and until this"
          date :next_slips_on, optional: true, help: "and from this day in the next season"
          name :wrap, -> { Tend::Care.choices("wrap") }, optional: true, help: "else the school's"
          flag :southern, default: false
          list :visits, default: [].freeze do
            date :on
            name :leaves, LEAVES, optional: true
            list :scions, default: [].freeze, help: "as seen then" do
              key :id
              name :fate, FATES
            end
          end
          weather :weather, default: [].freeze, help: "days from the day of the repair"
          weather :earlier, default: [].freeze, help: "days of earlier years, for those to come"
          list :set, default: [].freeze, help: "each scion or stock in the trunk" do
            key :id
            date :on
          end
          number :carried, least: 0, most: 1, optional: true, help: "share of the wound that living scions carry"
          list :done, default: [].freeze, help: "what a person did, waived or put off" do
            text :key
            date :on
            name :what, %w[done waived put-off], default: "done"
            date :until, optional: true
            text :why, optional: true
          end
          name :school, -> { Rulebook.shipped.school_names }, optional: true
          date :today
        end

        # @return [Hash] +tasks+ as of aftercare, +state+ (of STATES), +knit_on+ and +knit_basis+ of what was set last,
        #   +dead+ (ids of scions last seen dead) and +unseen+ (of those set that nobody has looked at)
        def self.call(weather:, earlier:, rulebook: Rulebook.shipped, **facts)
          of(facts, Tend::Climate.new(weather, rulebook, earlier: -> { earlier }), rulebook)
        end

        # The same over weather that was read already.
        #
        # @param facts [Hash] of the contract, all but the weather
        # @param climate [Tend::Climate] of the days from the repair on
        def self.of(facts, climate, rulebook) = Schedule.new(facts, climate, rulebook).answer

        # Whether a trunk needs nothing more to live, or nothing helps it.
        #
        # @param state [String] as +call+ answers it
        def self.settled?(state) = %w[mended cut holding lost].include?(state)

        # One wound's facts, and what follows from them.
        class Schedule
          def initialize(facts, climate, rulebook)
            @facts = facts
            @climate = climate
            @rulebook = rulebook
            @today = facts[:today]
            @visits = facts[:visits].select { |each| each[:on] <= @today }
              .sort_by.with_index { |each, place| [each[:on], place] }
            @season = Season.new(southern: facts[:southern])
          end

          # The answer of the reckoning, over one trunk's facts.
          def answer
            rules = Tend::Rules.new(@rulebook.rules("repair"), done: @facts[:done], today: @today,
                                    event: method(:event), fact: method(:fact), needed: method(:needed?),
                                    answered: method(:answered), deeds: DEEDS)
            { tasks: rules.tasks, state: state, knit_on: knit_last&.fetch(:on), knit_basis: knit_last&.fetch(:basis),
              dead: dead, unseen: unseen }
          end

          private

          def repaired? = !@facts[:repaired_on].nil? && @facts[:repaired_on] <= @today
          def last_leaves = @visits.reverse.find { |each| each[:leaves] }&.fetch(:leaves)

          # How each scion was last seen, and since when.
          def fates
            @fates ||= @visits.each_with_object({}) do |visit, known|
              visit[:scions].each do |each|
                known[each[:id]] = [each[:fate], visit[:on]] unless known[each[:id]]&.first == each[:fate]
              end
            end
          end
          def dead = fates.select { |_, (fate, _)| fate == "dead" }.keys

          def set = @set ||= @facts[:set].select { |each| each[:on] <= @today }
          def unseen = set.map { |each| each[:id] } - fates.keys
          # The days on which more were set than at first, in order.
          def later
            @later ||= repaired? ? set.map { |each| each[:on] }.select { |on| on > @facts[:repaired_on] }.sort : []
          end

          def state
            case @facts[:course]
            when *CUT then repaired? ? "cut" : bare
            when "dress" then repaired? || @facts[:covered_on] ? "mended" : bare
            else repaired? ? of_scions : bare
            end
          end

          # What lives may hold; where it does not, what nobody has looked at may.
          def of_scions
            return waiting if fates.empty?
            return "holding" if carries?
            return waiting if unseen.any?

            last_leaves == "none" && @today >= knit[:on] && dead.size == fates.size ? "lost" : "failing"
          end

          def waiting = @today < knit_last[:on] ? "knitting" : "unseen"
          def carries?
            carried = @facts[:carried]
            dead.size < fates.size &&
              (carried.nil? || Near.at_least?(carried, @rulebook.value("reckoning.bridge.alive_share")))
          end

          def answered(what, from) = send(ANSWERS.fetch(what), from)

          # The first look at its scions from a day on.
          def looked_on(from) = @visits.find { |visit| visit[:on] >= from && visit[:scions].any? }&.fetch(:on)

          # The day by which one was set for each that died, since it was seen dead.
          def replaced_on(_)
            free = later.dup
            pairs = died_days.map { |died| free.index { |on| on >= died }&.then { |place| free.delete_at(place) } }
            pairs.max if pairs.any? && pairs.all?
          end

          # The first day from one on, on which more were set.
          def set_from(from) = later.find { |on| on >= from }

          def bare = @facts[:covered_on] ? "covered" : "bare"

          def knit = @facts[:repaired_on] && knit_of(@facts[:repaired_on])
          # Of what was set last.
          def knit_last = later.any? ? knit_of(later.last) : knit
          def knit_of(day)
            (@knit ||= {})[day] ||= @climate.knit(@facts[:species], day, @today)
          end

          def event(name) = send(EVENTS.fetch(name))
          def found = [@facts[:found_on], "fact"]
          def covered = @facts[:covered_on] && [@facts[:covered_on], "fact"]
          def repaired = @facts[:repaired_on] && [@facts[:repaired_on], "fact"]
          def knitted = knit && [knit[:on], knit[:basis]]
          def died = died_on && [died_on, "seen"]
          def set_later = later.any? ? [later.last, "fact"] : nil
          def knit_later = set_later && [knit_last[:on], knit_last[:basis]]
          def autumn_later = set_later && from_calendar("autumn", from: later.last)
          def slips_again = died_on && [slips_after(again_from), "expected"]
          # While the trunk fails there is another spring for it, and another.
          def again_from = state == "failing" ? @today : died_on
          def closing(day) = bark_season(day).last&.then { |closes| [closes, "expected"] }
          # This spring's, or the next, and not before it was last looked at.
          def slips_next = [[slips_after(@today), @visits.last&.fetch(:on)].compact.max, "expected"]
          def closes = closing(@today)
          def closes_again = died_on && closing(again_from)
          def autumn = from_calendar("autumn")
          def winter = from_calendar("winter")
          # What was found, or repaired, while there is still time before the snow is seen to before that winter.
          def before_winter = from_calendar("autumn", back: @rulebook.value("reckoning.bridge.before_snow"))

          def slips
            [[slips_on, @facts[:found_on]].max, slips_on < @facts[:found_on] ? "already" : "expected"]
          end

          def sleeps = sleeps_on&.then { |day| [day, day == @facts[:found_on] ? "fact" : "calendar"] }

          # @param back [Integer] so many days from what was found or repaired it may lie behind
          def from_calendar(name, back: 0, from: @facts[:repaired_on] || @facts[:found_on])
            [@season.next_day(@rulebook.value("care.calendar.#{name}"), from - back), "calendar"]
          end

          def second_spring
            spring = @rulebook.value("care.calendar.spring")
            @facts[:repaired_on] && [@season.next_day(spring, winter.first), "calendar"]
          end

          # When bark slips next for what is not repaired yet. Once it was repaired, that of the spring of its repair:
          # what is done as bark slips is not asked for again every year.
          def slips_on
            return slips_after(@today) unless repaired?

            latest = @facts[:repaired_on] + @rulebook.value("reckoning.bridge.own_spring")
            day = @facts[:slips_on]
            day <<= 12 while day > latest
            day
          end

          # The opening of the first season in which bark closes no earlier than a day.
          def slips_after(day) = bark_season(day).first

          # When bark slips and closes in that season; other years' as this one's. No closing where nobody knows one.
          def bark_season(day)
            opens, closes = @facts.values_at(:slips_on, :closes_on)
            return [opens, nil] unless closes
            return [@facts[:next_slips_on] || opens, closes >> 12] if day > closes

            opens, closes = opens << 12, closes << 12 while closes << 12 >= day
            [opens, closes]
          end

          # From when its wood sleeps and can be saved before bark slips; nil where it was found awake, and of a kind
          # that never sleeps, of which wood is cut on the day.
          def sleeps_on
            return if evergreen? || !asleep?

            fallen = @season.next_day(@rulebook.value("care.calendar.leaf-fall"), slips_on << 12)
            [fallen, @facts[:found_on]].max
          end

          def asleep? = @facts[:found_on] < slips_on

          def evergreen? = @rulebook.evergreen?(@facts[:species])

          # Found with its shoots in leaf: between the opening of bark, this year's or the last, and autumn.
          def in_leaf?
            return false if evergreen?

            opened = asleep? ? slips_on << 12 : slips_on
            @facts[:found_on].between?(opened, @season.next_day(@rulebook.value("care.calendar.autumn"), opened) - 1)
          end

          # When each of its dead scions was first seen dead, in order.
          def died_days = fates.values.filter_map { |fate, on| on if fate == "dead" }.sort
          def died_on = died_days.last

          def fact(point)
            case point
            when "course" then @facts[:course]
            when "cause" then @facts[:cause]
            when "half" then Near.at_least?(@facts[:girdled_share], @rulebook.value("reckoning.bridge.needed")) ?
              "yes" : "no"
            when "leaves" then last_leaves || "unseen"
            when "dead" then dead.any? ? "yes" : "no"
            when "in-leaf" then in_leaf? ? "yes" : "no"
            else @facts[point.to_sym] || @rulebook.practice(point, @facts[:school])
            end
          end

          def needed?(rule) = rule["needs"].nil? ? state != "lost" : rule["needs"].include?(state)
        end
        private_constant :Schedule
      end
    end
  end
end
