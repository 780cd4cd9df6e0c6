# frozen_string_literal: true

module Vestry
  module Core
    module Slip
      # When bark slips where the weather does not say: by the calendar, after a test cut, by a tree's own habit.
      module BarkDates
        module_function

        # By the ordinary day of the species; spread evenly about it while it is to come.
        #
        # @param usual [Date]
        # @return [Hash] +accumulated_dd+, +reached_on+, +p10+, +p50+, +p90+ and +basis+
        def by_calendar(usual, today, rulebook)
          spread = rulebook.value("reckoning.slip.calendar_spread")
          dates = usual <= today ? { reached_on: usual, p10: nil, p50: nil, p90: nil } :
            { reached_on: nil, p10: usual - spread, p50: usual, p90: usual + spread }
          { accumulated_dd: nil, **dates, basis: "calendar" }
        end

        # A test cut that did not lift says more than the reckoning: it has not come by then.
        #
        # @param forecast [Hash] with +reached_on+, +p10+, +p50+ and +p90+
        # @param cut_on [Date] of the last cut that did not lift
        # @return [Hash] the same, no sooner than the day after; reached again once it is as likely as not since
        def not_before(forecast, cut_on, today, rulebook)
          soonest = cut_on + 1
          return forecast unless [forecast[:reached_on], forecast[:p10]].compact.any? { |date| date < soonest }

          even, late = rulebook.value("reckoning.slip.after_no")
          dates = forecast[:reached_on] ? [soonest, soonest + even, soonest + late] :
            forecast.values_at(:p10, :p50, :p90).map { |date| [date, soonest].max }
          if forecast[:reached_on] && dates[1] <= today
            return forecast.merge(reached_on: dates[1], p10: nil, p50: nil, p90: nil)
          end

          forecast.merge(reached_on: nil, p10: dates[0], p50: dates[1], p90: dates[2], basis: "seen")
        end

        # The last day on which a tree's bark lifts: the one before it was seen to lift no longer, else by its kind and
        # place, and not within so many days of one on which it lifted.
        #
        # @param usual [Date] of its kind
        # @param lifted_on [Date, nil] the last day on which it was seen to lift
        # @param closed_on [Date, nil] on which it was seen to lift no longer, since then
        def closes(usual, lifted_on, closed_on, rulebook)
          return closed_on - 1 if closed_on

          [usual, lifted_on && lifted_on + rulebook.value("reckoning.slip.lifts_on")].compact.max
        end

        # The last day on which bark of late summer lifts: the one before it was found fast, with no look since at which
        # it lifted.
        #
        # @param looks [Array<Hash>] in order, each +on+, +slipping+ (nil without a cut) and +closed+
        # @param from [Date] from which it slips a second time: earlier looks say nothing of that
        # @return [Date, nil] nil while it was not found fast
        def closes_again(looks, from)
          since = looks.select { |look| look[:on] >= from }.reverse.take_while { |look| !look[:slipping] }.reverse
          fast = since.find { |look| look[:closed] || look[:slipping] == false }
          fast && fast[:on] - 1
        end

        # In dry soil bark comes later: by so many days, or where it had come by the weather less long ago than that,
        # not yet.
        #
        # @param forecast [Hash] with +reached_on+, +p10+, +p50+ and +p90+
        # @return [Hash] the same, later
        def in_dry_soil(forecast, today, rulebook)
          late = rulebook.value("reckoning.slip.dry_late")
          reached = forecast[:reached_on]
          return forecast.merge(%i[p10 p50 p90].to_h { |name| [name, forecast[name]&.+(late)] }) unless reached
          return forecast if reached + late <= today

          forecast.merge(reached_on: nil, p10: [reached, today + 1].max, p50: reached + late, p90: reached + 2 * late)
        end

        # In dry soil bark closes earlier, where it is soon to close.
        #
        # @return [Date] today or later, unless it had closed before
        def closes_dry(closes_on, today, rulebook)
          early, soon = rulebook.value("reckoning.slip.dry_early")
          closes_on < today || closes_on - today > soon ? closes_on : [closes_on - early, today].max
        end

        # When to come back to a tree whose bark was not seen to slip: now where it has come by reckoning, else when it
        # is as likely as not; after a cut that did not lift, some days on.
        #
        # @param cut_on [Date, nil] of the last cut that did not lift
        # @return [Date] today or later
        def come_back(reached_on, p50, cut_on, today, rulebook)
          soonest = cut_on ? cut_on + rulebook.value("reckoning.slip.again_days") : today
          [reached_on || p50 || today, soonest, today].max
        end

        # How much later than its kind each tree has been, drawn in towards nothing while it was seen seldom.
        #
        # @param seen [Array<Hash>] +tree+, +species+ and +dd+, the degree-days at which its bark was first seen to slip
        # @return [Hash] tree => [species, degree-days]
        def habits(seen, rulebook)
          weight = rulebook.value("reckoning.slip.tree_habit")
          seen.group_by { |each| each[:species] }.flat_map do |species, all|
            mean = all.sum { |each| each[:dd] } / all.size
            all.group_by { |each| each[:tree] }.map do |tree, own|
              [tree, [species, own.sum { |each| each[:dd] - mean } / (own.size + weight)]]
            end
          end.to_h
        end
      end
    end
  end
end
