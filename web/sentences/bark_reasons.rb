# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # When bark slips, and what a day and its crew can do.
      module BarkReasons
        # A species' or a tree's spring, in a clause.
        #
        # @param closes_on [Date, nil] when it lifts no longer
        def say_bark_forecast(forecast, closes_on = nil)
          return say_bark_reached(forecast, closes_on) if forecast[:reached_on]
          return "not known" unless forecast[:p50]

          if forecast[:p10] == forecast[:p90]
            return "by #{day(forecast[:p90])}#{' in ordinary years' if forecast[:basis] == 'calendar'}"
          end

          "as likely as not by #{day(forecast[:p50])}; between #{yearly_day(forecast[:p10])} " \
          "and #{yearly_day(forecast[:p90])}#{' in ordinary years' if forecast[:basis] == 'calendar'}"
        end

        def say_bark_reached(forecast, closes_on)
          since = day(forecast[:reached_on])
          return "slipped from #{since}, and closed about #{day(closes_on)}" if closes_on && closes_on < today

          return say_bark_behind(forecast, since) if forecast[:basis] == "calendar" && forecast[:accumulated_dd]

          "slips since #{since}#{{ 'calendar' => ', in an ordinary year', 'seen' => ' (seen)' }[forecast[:basis]]}"
        end

        # By the calendar it has come, and by this spring's own warmth not yet.
        def say_bark_behind(forecast, since)
          "slips since #{since} in an ordinary year; this one has come to " \
            "#{degree_days(forecast[:accumulated_dd]).to_i} of #{degree_days(forecast[:threshold_dd])}: test it"
        end

        def say_tree(told)
          return "no forecast for its kind" if told.basis == "unknown"
          return "lifts no longer, seen #{short_day(told.closed_on)}" if told.closed_on
          return say_tree_closed(told) if told.closes_on < today
          if told.reached_on
            return told.basis == "seen" ? "slips, seen #{short_day(told.reached_on)}" :
              "should slip since #{short_day(told.reached_on)}: test it"
          end

          told.p50 ? "by #{short_day(told.p50)} (#{yearly_day(told.p10)} to #{yearly_day(told.p90)})" : "not known"
        end

        # @param bark [Records::BarkForecast::TreeBark]
        def say_tree_closed(bark)
          about = "closed about #{short_day(bark.closes_on)}"
          bark.lifted_on ? "slipped, seen #{short_day(bark.lifted_on)}, and #{about}" : about
        end

        # Where a mild winter holds the buds back.
        def say_chill(slept, wanted)
          portions = "#{slept[:portions].round} of the #{wanted} chill portions its buds want"
          slept[:on] ? "A mild winter: warmth counts only since #{short_day(slept[:on])}, when they had slept enough." :
            "A mild winter: #{portions} were reached, and until they are, warmth does not count."
        end

        def say_window_bark_closes_on(r)
          "Bark #{over?(r[:on]) ? 'closed' : 'closes'} about #{short_day(r[:on])}."
        end
        def say_window_heat_on(r) = "Heat, from about #{short_day(r[:on])} in ordinary years here."
        def say_window_wood_ends_on(r)
          "The stored wood #{over?(r[:on]) ? 'gave' : 'gives'} out about #{short_day(r[:on])}."
        end
        def say_window_hardening(_) = "Later, the new shoot would not harden before frost."

        def say_day_slip(r)
          r[:likely] < 0.005 ? "Bark does not slip yet." : "Bark slips with #{percent(r[:likely])} likelihood."
        end

        def say_day_too_early(r) = "Before #{short_day(r[:on])} a graft only stands in the cold and dries."
        def say_day_too_late(r) = "Past #{short_day(r[:on])}, the last sensible day."

        def say_day_rain(r)
          "#{rain_depth(r[:mm])} of rain."
        end
        def say_day_gust(r) = "Gusts of #{wind_speed(r[:ms])}: not on a ladder."
        def say_day_cool_night(r) = "A night of #{warmth(r[:celsius])}: an evergreen stands still in it."
        def say_day_frost(r) = "Frost (#{warmth(r[:celsius])}) on #{short_day(r[:on])}."
        def say_day_callus(r)
          "Too cold for its callus, #{percent(r[:rate])} of its best: wait for warmth, or cover it."
        end
        def say_day_heat(r) = "#{warmth(r[:celsius])}: cut faces dry while they are fitted. Begin at first light."
        def say_day_dry_air(r)
          "Dry air (#{format('%.1f', r[:kpa])} kPa short of its water): keep the stick wrapped until it is set."
        end
        def say_day_cold(r) = "No more than #{warmth(r[:celsius])}: frozen wood does not cut true."
        def say_day_cold_night(r) = "A night of #{warmth(r[:celsius])}: let the wood thaw before it is cut."

        def say_crew_never_open(r)
          "It shuts (#{short_day(r[:closes_on])}) before it opens (#{short_day(r[:opens_on])})."
        end
        def say_crew_no_day(r)
          "No day of this plan lies between #{short_day(r[:opens_on])} and #{short_day(r[:closes_on])}."
        end
        def say_crew_all_wait(_) = "Every day it could be done has to wait for the weather."
        def say_crew_no_time(r)
          "There is no time for its #{r[:minutes].round} minutes by #{short_day(r[:closes_on])}: more hours, or more " \
          "hands."
        end
      end
    end
  end
end
