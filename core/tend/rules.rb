# frozen_string_literal: true

module Vestry
  module Core
    module Tend
      # Rules of aftercare laid over what happened. A rule hangs on an event (after), opens, falls due and closes so
      # many days from it; "when" limits it to facts, "needs" to states, "every" repeats it until another event, so
      # many days after it was done, or at once where it passed undone; "by" ends it with one; "waits-for" counts its
      # days from another event that comes later; "answered-by" is a visit that says what was asked, or what was set;
      # "dated" ones come again with each event of their kind; "yearly" ones on the same day each year, for so many
      # "years" or until another event, told so many days "ahead", and "once" done or waived no more; "known" names
      # the event before which nobody knew of it, and from which it has as many days; "logs" is the method by which what
      # it asks for is logged; "unless" names other rules that ask for the same: it is not asked while one of those is
      # open, nor where one was settled since its event. What a person did, waived or put off stays theirs.
      class Rules
        MOST_ROUNDS = 30
        # Years for which a yearly rule is looked at; of those gone by without it, the last is told.
        MOST_YEARS = 12
        # Days ahead from which a yearly task is told again.
        YEARLY_AHEAD = 90

        # What a task is done by, where pressing that it is done would leave nothing of it on record: its limb is
        # planned again, it is counted, what was set is logged (as a graft, or in its trunk), or it is said what was
        # seen. A limb that grows may be looked at and nothing be said of it.
        #
        # @param rule [Hash] as written in a rulebook
        # @return [String, nil] log, plan, count, set or look
        def self.done_by(rule)
          return "log" if rule["logs"]
          return "plan" if rule.dig("when", "planned-again")

          DONE_BY[rule["answered-by"]] unless rule["needs"] == ["growing"]
        end
        DONE_BY = { "count" => "count", "replaced" => "set", "set" => "set", "look" => "look", "taking" => "look",
                    "stalk" => "look", "callus" => "look", "fates" => "look" }.freeze
        private_constant :DONE_BY

        # @param rules [Hash{String=>Hash}] by name, as written in a rulebook
        # @param done [Array<Hash>] each +key+, +on+, +what+ (done, waived, put-off) and +until+
        # @param event [#call] name => [day, basis], or nil where it has not come
        # @param fact [#call] point => what holds
        # @param needed [#call] rule => whether its states hold, or :ahead where it is to be told before they do
        # @param answered [#call] what a rule is answered by, and from which day => the day it was, or nil
        # @param deeds [Array<String>] those of what answers rules that were done, and not seen at a visit
        def initialize(rules, done:, today:, event:, fact:, needed:, answered: ->(_, _) {}, deeds: [])
          @rules = rules
          @done = done.to_h { |each| [each[:key], each] }
          @today = today
          @event = event
          @fact = fact
          @needed = needed
          @answered = answered
          @deeds = deeds
        end

        # @return [Array<Hash>] each +key+, +rule+, +opens_on+, +due_on+, +closes_on+, +status+ (ahead, open,
        #   late, passed, done, waived), +reasons+ and, of what is done or waived, +settled_on+; in order of their
        #   due day
        def tasks
          all = @rules.flat_map { |name, rule| tasks_of(name, rule) }
          all.reject { |task| stood_in_for?(task, all) }.sort_by { |task| [task[:due_on], task[:key]] }
        end

        # The first day on which another yearly task is told; nil where none is to come.
        def told_next = @told_next

        private

        def tasks_of(name, rule)
          return [] unless suits?(rule) && (@needed.call(rule) || settled?(name))

          day, basis = @event.call(rule.fetch("after"))
          return [] unless day

          last = last_day(rule)
          return [] if last && last < day + rule["opens"]

          in_need(rule, all_of(name, rule, day, basis))
        end

        # Once its states are over, what was settled of it stays told, and nothing more is asked; what is only to be
        # told ahead is not asked either.
        def in_need(rule, tasks)
          needed = @needed.call(rule)
          return tasks if needed == true

          tasks.select { |each| settled_for_good(each[:key]) || (needed == :ahead && each[:status] == "ahead") }
        end

        # What comes again is told apart by its day.
        def all_of(name, rule, day, basis)
          return yearly(name, rule, day, basis) if rule["yearly"]
          return repeated(name, rule, day, basis) if rule["every"]

          [task(rule["dated"] ? "#{name}:#{day.iso8601}" : name, name, rule, day, after(rule, day, basis))]
        end

        # The first under its own name, later ones with their year; what was passed by in earlier years is let be.
        def yearly(name, rule, day, basis)
          tasks = years_of(rule, day).map do |on|
            next task(name, name, rule, day, after(rule, day, basis)) if on == day

            task("#{name}:#{(on + rule["due"]).year}", name, rule, on,
                 SEASONS.include?(rule["after"]) ? after(rule, on, basis) :
                   { code: "care_yearly", after: rule["after"], on: day })
          end
          tasks = until_settled(tasks) if rule["once"]
          tasks.select.with_index { |each, place| each[:status] != "passed" || place == tasks.size - 1 }
        end

        # Events that come each year by themselves.
        SEASONS = %w[autumn winter spring waking].freeze
        SETTLED = %w[done waived].freeze
        private_constant :SEASONS, :SETTLED

        def until_settled(tasks)
          ended = tasks.index { |task| SETTLED.include?(task[:status]) }
          ended ? tasks.first(ended + 1) : tasks
        end

        # The days on which it comes, as far as they are told.
        def years_of(rule, day)
          stop = rule["until"] && @event.call(rule["until"])&.first
          days = Array.new(rule["years"] || MOST_YEARS) { |year| day >> 12 * year }
          days.take_while { |on| !(stop && on > stop) && told?(rule, on, on == day ? rule["ahead"] : YEARLY_AHEAD) }
        end

        def told?(rule, on, ahead)
          opens_on = on + rule["opens"]
          return true if ahead.nil? || opens_on <= @today + ahead

          tell_later(opens_on, ahead)
          false
        end

        def tell_later(opens_on, ahead) = @told_next = [@told_next, opens_on - ahead].compact.min

        TO_DO = %w[ahead open late].freeze
        NOW = %w[open late].freeze
        private_constant :TO_DO, :NOW

        # Whether another task asks for the same now, or was settled since what this one hangs on.
        def stood_in_for?(task, all)
          rule = @rules[task[:rule]]
          return false unless rule["unless"] && TO_DO.include?(task[:status])

          since = @event.call(rule["after"]).first
          all.any? do |other|
            rule["unless"].include?(other[:rule]) &&
              (NOW.include?(other[:status]) || (SETTLED.include?(other[:status]) && other[:settled_on] >= since))
          end
        end

        def settled?(name) = @done.keys.any? { |key| key.split(":").first == name }

        # Each round opens a fixed time after the last was done, or when that has passed undone, until the season is
        # over.
        def repeated(name, rule, day, basis)
          last = @event.call(rule.fetch("until"))&.first or return []
          tasks = []
          because = after(rule, day, basis)
          while day && day + rule["opens"] <= last
            tasks << task("#{name}:#{tasks.size + 1}", name, rule, day, because)
            day, because = following(rule, tasks)
          end
          tasks
        end

        # From what day the round after those there are is reckoned, and why; nil where none is to come yet.
        def following(rule, tasks)
          on, closes = tasks.last.values_at(:settled_on, :closes_on)
          if on
            [on + rule["every"] - rule["opens"],
             { code: "care_again", on: on, days: rule["every"] + rule["due"] - rule["opens"] }]
          elsif tasks.last[:status] == "passed" && tasks.size < MOST_ROUNDS
            [closes + 1 - rule["opens"], { code: "care_missed", on: closes }]
          end
        end

        # @param because [Hash] the reason for its days
        def task(key, name, rule, day, because)
          opens, due, closes = days(rule, day)
          reasons = [because, *reasons(name, rule)]
          if (off = put_off(key))
            opens, due, closes = off[:until], [due, off[:until]].max,
              [closes, off[:until] + (rule["closes"] - rule["due"])].max
            reasons = [{ code: "care_put_off", on: off[:on], until: off[:until], why: off[:why] }, *reasons]
          end
          seen = seen(key, rule, day)
          reasons = [{ code: answer_code(rule), on: seen }, *reasons] if seen
          { key: key, rule: name, opens_on: opens, due_on: due, closes_on: closes,
            status: seen ? "done" : status(key, opens, due, closes), reasons: reasons,
            **{ settled_on: seen || settled_for_good(key)&.fetch(:on) }.compact }
        end

        # When it opens, falls due and closes: no later than what ends it.
        def days(rule, day)
          day = start(rule, day)
          opens, due, closes = rule.values_at("opens", "due", "closes").map { |days| day + days }
          if (known = known_on(rule))
            opens, due = [opens, known].max, [due, [known + (due - opens), closes].min].max
          end
          last = last_day(rule)
          last ? [opens, [due, last].min, [closes, last].min] : [opens, due, closes]
        end

        def answer_code(rule) = @deeds.include?(rule["answered-by"]) ? "care_set" : "care_answered"

        def known_on(rule) = rule["known"] && @event.call(rule["known"])&.first

        # The day it is counted from: that of its event, or of one that it waits for.
        def start(rule, day) = [day, rule["waits-for"] && @event.call(rule["waits-for"])&.first].compact.max

        def last_day(rule) = rule["by"] && @event.call(rule["by"])&.first
        def put_off(key) = @done[key]&.then { |off| off if off[:what] == "put-off" && off[:until] }

        # The day on which what it asks was seen; nil where it was not.
        def seen(key, rule, day)
          return nil unless rule["answered-by"] && !settled_for_good(key)

          on = @answered.call(rule["answered-by"], start(rule, day) + rule["opens"])
          on unless on && rule["yearly"] && on >= (day >> 12) + rule["opens"]
        end

        def settled_for_good(key) = @done[key]&.then { |each| each if each[:what] != "put-off" }

        def status(key, opens, due, closes)
          return @done[key][:what] if settled_for_good(key)
          return "ahead" if @today < opens
          return "open" if @today <= due

          @today <= closes ? "late" : "passed"
        end

        def after(rule, day, basis) = { code: "care_after", **since(rule, day, basis), days: rule["due"] }

        def reasons(name, rule)
          list = []
          (rule["when"] || {}).each_key do |point|
            list << { code: "care_when", point: point, choice: @fact.call(point) } if Rulebook.shipped.point_names
              .include?(point)
          end
          list << { code: "care_why", rule: name }
        end

        # What its days are counted from, and whence that is known.
        def since(rule, day, basis)
          on = start(rule, day)
          return { after: rule["after"], on: day, basis: basis } if on == day

          { after: rule["waits-for"], on: on, basis: @event.call(rule["waits-for"]).last }
        end

        def suits?(rule) = (rule["when"] || {}).all? { |point, wanted| wanted.include?(@fact.call(point)) }
      end
    end
  end
end
