# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # Words for stripped trunks.
      module Repairs
        VERDICTS = { "dress" => "clean and leave", "advised" => "bridge advised", "needed" => "bridge needed",
                     "inarch" => "inarch young stocks", "cut-back" => "cut below, start again",
                     "stump-graft" => "graft its own wood on the stump" }.freeze
        COURSES = { "dress" => "clean and cover it", "bridge" => "bridge it", "inarch" => "inarch young stocks",
                    "cut-back" => "cut below and start again",
                    "stump-graft" => "graft its own wood on the stump" }.freeze
        DONE = { "dress" => "Dressed", "bridge" => "Bridged", "inarch" => "Inarched", "cut-back" => "Cut below",
                 "stump-graft" => "Grafted on the stump" }.freeze
        CAUSES = { "teeth" => "teeth", "strimmer" => "a strimmer or a mower", "sun" => "sun",
                   "frost" => "a frost crack", "other" => "something else" }.freeze
        STANDS = { "bare" => "not covered yet", "covered" => "covered, waiting", "knitting" => "knitting",
                   "unseen" => "not looked at yet",
                   "holding" => "holds", "failing" => "failing", "mended" => "mended", "cut" => "its stem is cut",
                   "lost" => "lost" }.freeze

        def say_verdict(verdict) = VERDICTS.fetch(verdict)
        def say_course(course) = COURSES.fetch(course)
        def say_course_done(course) = DONE.fetch(course)
        # What is set into a trunk, by what is done about it.
        def scion_or_stock(course) = course == "inarch" ? "stock" : "scion"
        def scions_or_stocks(course) = "#{scion_or_stock(course)}s"
        def say_stands(state) = STANDS.fetch(state)

        def say_triage_dress(r)
          "#{percent(r[:share])} of the girth is bare: it closes that by itself. Clean it and keep it covered from sun."
        end
        def say_triage_advised(r)
          "#{percent(r[:share])} of the girth is bare: it would live, limping. A bridge spares it years."
        end
        def say_triage_needed(r) = "#{percent(r[:share])} of the girth is bare: the roots starve unless it is bridged."
        def say_triage_inarch(r)
          "#{percent(r[:share])} is bare and no live bark is left above the roots."
        end
        def say_triage_no_root(_)
          "Dig for live bark first: where some is found, bridge to it. Where none is, plant young stocks beside it " \
          "and " \
          "set their tops into the trunk; failing that, lead up a sucker or replace the tree. There is no live wood " \
          "to " \
          "cut back to."
        end
        def say_triage_stump_graft(r)
          "Only #{length(r[:diameter_mm])} thick and #{percent(r[:share])} bare, below its own nursery union: what " \
          "would grow from below is another variety. Graft its own wood on the stump as you cut it, or bridge it " \
          "with #{in_own_units('scions of 6 to 8 mm')} first and cut when they hold."
        end
        def say_triage_cut_back(r)
          "Only #{length(r[:diameter_mm])} thick and #{percent(r[:share])} bare: it grows anew from below faster " \
          "than a bridge mends it."
        end
        def say_triage_dig(_) = "It goes on below the soil: dig until sound bark shows, and measure from there."
        def say_triage_save_wood(_)
          "Save wood from its top first, or the variety is gone: it stands on no other tree here."
        end
        def say_triage_leafy_wood(_)
          "It stands on no other tree here: cut wood of its top on the day, and set it in the same hour."
        end
        def say_triage_cover(r)
          r[:drying] ? "The bare wood is drying: cover it today." :
            "Cover the bare wood, so that it does not dry and crack."
        end
        def say_triage_slips(r) = "Bark slips now; about #{short_day(r[:closes_on])} it closes."
        def say_triage_bark_ahead(r)
          "Bark slips about #{short_day(r[:opens_on])}, in #{counted(r[:days], 'day')}; " \
            "#{say_ready_by_then(r)}."
        end

        # What is at hand when bark slips, by what is set into the trunk then.
        def say_ready_by_then(reason)
          return "have the young stocks planted by then" if reason[:verdict] == "inarch"
          return "its wood is cut on the day" if reason[:leafy] && reason[:verdict]
          return "have its own wood cut by then" if reason[:verdict]

          reason[:leafy] ? "its scions are cut on the day" : "have the scions cut by then"
        end

        # What is done when bark slips again.
        SET_THEN = { "inarch" => "set young stocks into it", "stump-graft" => "graft its stump" }.freeze
        private_constant :SET_THEN
        def say_triage_next_year(r) = "Bark has closed: bridge it next spring, from about #{day(r[:opens_on])}."
        def say_triage_too_late(r)
          "Bark has closed for this year, and such a tree may not see the next spring. Keep it covered, strip its " \
          "blossom, and #{SET_THEN.fetch(r[:verdict], 'bridge it')} from about #{day(r[:opens_on])} if it lives."
        end

        # How it stood at a look, in a few words.
        def say_verdict_then(each)
          stood = say_stands(each[:state])
          stood = stood[0].upcase + stood[1..]
          each[:carried] ? "#{stood}: #{each[:living]} of #{each[:set]} live and carry #{percent(each[:carried])}." :
            "#{stood}."
        end

        # A whole shoot by its bundle and number, and how thick it is where that is known.
        def say_shoot(stick)
          [stick.label, (thickness(stick.diameter_mm) if stick.diameter_mm)].compact.join(", ")
        end

        def say_where_shoots_are_cut(told)
          return "Cut whole shoots from its own top or a near kin on the day, their leaves off." if told.leafy?

          "Cut whole shoots from its own top before it wakes, or from a near kin, and keep them as a bundle of whole " \
            "shoots."
        end

        # How long there is, in a few words.
        def say_time_left(triage)
          return "no hurry" if triage[:verdict] == "dress"
          return "next spring" if triage[:by].nil?

          return "late since #{day(triage[:by])}" if triage[:days_left].negative?

          triage[:days_left].zero? ? "today" : "#{counted(triage[:days_left], 'day')}, until #{day(triage[:by])}"
        end

        # One wound in a sentence: how it stands and what to do.
        def say_wound(told)
          due = told.mending[:tasks].find { |task| %w[open late].include?(task[:status]) }
          next_words = due ? " #{say_task_due(due, task_words(due)['title'])}." : ""
          state = told.mending[:state]
          case state
          when "lost" then "#{told.wound.label} is lost: no scion lives and it carries no leaf."
          when "mended", "cut" then say_mended(told, next_words)
          when "holding", "failing" then "#{say_repair_result(told)}#{next_words}"
          when "knitting", "unseen" then "#{say_waiting_to_knit(told)}#{next_words}"
          else "#{say_unrepaired(told)}#{next_words}"
          end
        end

        def say_repair_result(told)
          holds = told.mending[:state] == "holding" ? "holds" : "is failing"
          set, living, new = told.fates.size, told.living.size, told.mending[:unseen].size
          since = "; #{new} more #{new == 1 ? 'is' : 'are'} not looked at yet" if new.positive?
          return "#{told.wound.label} #{holds}: #{say_only_scion(told, living)}#{since}." if set == 1

          "#{told.wound.label} #{holds}: #{living} of #{set} #{scions_or_stocks(told.course)} live" \
            "#{", and #{living == 1 ? 'it carries' : 'they carry'} #{percent(told.carried)} of the wound" if
              told.carried && living.positive?}#{since}."
        end

        # @param report [Records::WoundReport] of a wound with one scion
        def say_only_scion(report, living)
          what = "its #{scion_or_stock(report.course)}"
          return "#{what} is dead" if living.zero?

          "#{what} lives#{", and carries #{percent(report.carried)} of the wound" if report.carried}"
        end

        def say_waiting_to_knit(told)
          since = ", and nobody has looked at them since" if told.mending[:state] == "unseen"
          "#{told.wound.label}: its #{'new ' if told.fates.any?}#{scions_or_stocks(told.course)} should have knit " \
            "by #{day(told.mending[:knit_on])}#{since}."
        end

        def say_unrepaired(told)
          "#{told.wound.label} has lost bark from #{percent(told.share)} of its " \
            "girth: #{say_verdict(told.triage[:verdict])}#{say_urgency(told)}.#{say_overruled(told)}"
        end

        # How long there is for it; nothing is said to have time beside what is due.
        #
        # @param report [Records::WoundReport]
        def say_urgency(report)
          due = report.mending[:tasks].any? { |task| %w[open late].include?(task[:status]) }
          due && report.triage[:verdict] == "dress" ? "" : ", #{say_time_left(report.triage)}"
        end

        # What was decided about it, where that is not what is advised.
        def say_overruled(told)
          told.decided_otherwise? ? " It was decided otherwise: #{say_course(told.course)}." : ""
        end

        def say_on_stump(stump)
          graft = stump.graft or return "log its graft on #{stump.tag}, that it is followed"

          { "took" => "its graft on #{stump.tag} took", "lost" => "its graft on #{stump.tag} was lost" }
            .fetch(graft.fate, "its graft is followed on #{stump.tag}")
        end

        # A stump's graft is followed where every graft is.
        def say_mended(told, next_words)
          done = "#{told.wound.label} was #{say_course_done(told.course).downcase}"
          return "#{done}: #{say_on_stump(told.stump)}.#{next_words}" if told.stump

          return "#{done} and needs nothing more but this.#{next_words}" unless next_words.empty?

          ahead = told.mending[:tasks].select { |task| task[:status] == "ahead" }.min_by { |task| task[:opens_on] }
          "#{done} and needs nothing #{ahead ? "until #{short_day(ahead[:opens_on])}" : 'more'}."
        end
        private :say_repair_result, :say_only_scion, :say_waiting_to_knit, :say_unrepaired, :say_mended, :say_on_stump,
                :say_overruled, :say_urgency

        # A task's rule, its sentences in the orchard's own units.
        def task_words(task)
          rule = orchard.rulebook.task(task[:rule])
          rule.merge(rule.slice("title", "does", "why").transform_values { |words| in_own_units(words) })
        end

        # The day by which a task stands in a list: when it was settled, else from when it can be done, or by when.
        def task_day(task) = task[:settled_on] || (task[:status] == "ahead" ? task[:opens_on] : task[:due_on])

        # Days for which what is settled or passed by is still shown among the tasks of today.
        STILL_SHOWN = 60
        def task_over?(task)
          !%w[open late ahead].include?(task[:status]) && task[:closes_on] < today - STILL_SHOWN
        end
      end
    end
  end
end
