# frozen_string_literal: true

module Vestry
  module Web
    class Headline
      # What matters on a grafting day.
      module OfGrafting
        def graft
          return "No tree stands here yet: stubs wait here for their day." if orchard.treeless?

          season = orchard.season.name_of(@today)
          ready, lacking = orchard.planned(:waiting, season).rows.partition(&:complete?)
          return none_ready(season, lacking) if ready.empty?

          missed, waiting = ready.partition { |row| orchard.stub_windows(@today).past?(row) }
          return missed_words(missed) if waiting.empty?

          more = case missed.size
                 when 0 then ""
                 when 1 then "; 1 more is past its last sensible day"
                 else "; #{missed.size} more are past their last sensible day"
                 end
          "#{number_word(waiting.size)} #{waiting.size == 1 ? 'stub is' : 'stubs are'} waiting " \
            "on #{on_trees(waiting)}; #{when_to_graft(waiting)}#{more}."
        end

        def on_trees(rows) = listed_some(rows.map { |each| each.limb.tree.label }.uniq, 5)

        def missed_limb_words(limb, planned)
          to = orchard.stub_windows(@today).following([planned])
          "#{limb.label} was to become #{planned.variety.name} in #{planned.season}, and its last sensible day is " \
            "over: move it to #{to} under Plan."
        end

        def missed_words(rows)
          one = rows.size == 1
          leading("#{number_word(rows.size)} #{one ? 'stub' : 'stubs'} on #{on_trees(rows)} #{one ? 'was' : 'were'} " \
                  "not grafted by #{one ? 'its' : 'their'} last sensible day: move #{one ? 'it' : 'them'} " \
                  "to #{orchard.stub_windows(@today).following(rows)} under Plan.", "To the plan", "plan",
                  role: "steward")
        end

        # Of stubs that are planned, and not in full.
        def lacking_words(season, rows)
          leading("No stub is ready to be grafted in #{season}: #{listed_some(rows.map { |row| row.limb.label }, 5)} " \
                  "still #{rows.size == 1 ? 'lacks' : 'lack'} a cut, a method or a variety.", "To the plan",
                  "plan", (rows.size == 1 ? "/trees/#{rows[0].limb.tree_id}?limb=#{rows[0].limb_id}" : ""),
                  role: "steward")
        end

        # @param lacking [Array<PlanLimb>] those planned and not in full, who are asked for while they can still be set
        def none_ready(season, lacking)
          return lacking_words(season, lacking) if lacking.any? && orchard.season_to_plan(@today) == season
          return "No stub is left to be grafted in #{season}." if
            Records::GraftQueries.grafting_days(orchard, orchard.season.span(season)).any?

          return "No stub waits to be grafted in #{season}: every tree has its plan." if nothing_to_plan?(season)

          leading("No stub is ready to be grafted in #{season}: plan limbs first, each with its cut, method and " \
                  "variety.", "Plan a limb", "plan", role: "steward")
        end

        # What of all that waits can be grafted now, what once its bark was tested, and from when the rest can be.
        def when_to_graft(rows)
          windows = orchard.stub_windows(@today)
          later, due = rows.partition { |row| (opens = windows.opens_on(row)) && opens > @today }
          untested, now = due.partition { |row| windows.untested?(row) }
          return all_due(now, untested) if later.empty?

          from = "from about #{day(later.map { |row| windows.opens_on(row) }.min)}"
          return "#{rows.one? ? 'it' : 'the first'} can be grafted #{from}" if due.empty?

          "#{some_due(now, untested, rows.size)}, the #{later.one? ? 'other' : 'others'} #{from}"
        end

        # @param many [Integer] how many there are in all
        def some_due(now, untested, many)
          { now => "now", untested => "once #{untested.one? ? 'its' : 'their'} bark is seen to slip" }
            .filter_map { |some, words| "#{written(some.size, of: many)} #{words}" if some.any? }
            .join(", ").sub(" ", " can be grafted ")
        end

        # In words, where all numbers of the sentence are.
        def written(number, of:) = number_word(of) == of.to_s ? number.to_s : number_word(number).downcase

        def all_due(now, untested)
          one = now.size + untested.size == 1
          return "log #{one ? 'it' : 'each one'} as soon as it is set" if untested.empty?

          now.empty? ? "graft #{one ? 'it' : 'each'} once its bark is seen to slip" :
            some_due(now, untested, now.size + untested.size)
        end
        private :none_ready, :when_to_graft, :all_due, :some_due, :written, :on_trees, :missed_words, :missed_limb_words

        def sheet(sheet)
          made = Records::GraftQueries.grafts(orchard, on: sheet.day).size
          if sheet.cards.empty?
            return "Nothing #{made.positive? ? 'more ' : ''}is to be grafted " \
                   "on #{day(sheet.day)}" \
                   "#{": #{counted_are(made, 'graft')} made" if made.positive?}."
          end

          "#{counted(sheet.cards.size, 'stub')} on #{counted(sheet.trees.size, 'tree')} for #{day(sheet.day)}, " \
            "about #{hours(sheet.minutes)} hours of work#{without_sticks(sheet)}#{left_undone(sheet)}."
        end

        # Stubs of a day for which the wood does not reach.
        def without_sticks(sheet)
          short = sheet.cards.count { |card| card.short.positive? }
          "; #{counted(short, 'stub')} without all #{short == 1 ? 'its' : 'their'} sticks" if short.positive?
        end

        # Stubs that were left undone on their day.
        def left_undone(sheet)
          left = sheet.cards.count { |card| card.row.undone_on == sheet.day }
          "; #{counted(left, 'stub')} left that day" if left.positive?
        end

        private :without_sticks, :left_undone

        # What is set next, in one breath.
        def bench(limb)
          planned = limb.planned
          return limb(limb) unless planned && planned.complete? && planned.waits? && !limb.gone_by?(@today)

          windows = orchard.stub_windows(@today)
          return missed_limb_words(limb, planned) if windows.past?(planned)

          opens = windows.opens_on(planned)
          "#{limb.label}, #{method_name(planned.technique).downcase}" \
          "#{", not before about #{day(opens)}" if opens && opens > @today}: " \
          "#{set_words(planned.technique, planned.sticks || 1)} of #{planned.variety.name}, " \
          "#{place_words(planned.technique)} at #{length(planned.cut_mm)}. " \
          "Change what came out otherwise."
        end

        def cutting_now(limb, advice)
          return limb(limb) if limb.gone_by?(@today)

          "#{limb.label}, #{method_name(advice.technique).downcase}: " \
          "#{orchard.rulebook.book('methods')[advice.technique]['for']}."
        end

        def different(limb, found)
          return limb(limb) if limb.gone_by?(@today)
          return "#{limb.label}: say what you found, and the card answers." unless found.asked?
          return "#{limb.label}: no method suits it as it is; cut lower, or leave it as a nurse." unless found.best

          found.still? ?
            "#{limb.label}: it still goes, by the #{method_name(found.planned_method).downcase}." :
              "#{limb.label}: change to the #{method_name(found.best[:method]).downcase}."
        end
      end
    end
  end
end
