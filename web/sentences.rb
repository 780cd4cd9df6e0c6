# frozen_string_literal: true

module Vestry
  module Web
    # Says the reasons a reckoning gives, as sentences. The reckonings give codes and figures;
    # the words are here and nowhere else.
    module Sentences
      include Repairs
      include Tending
      include Counting
      include Coming

      EVENTS = {
        "grafted" => "it was grafted", "knit" => "callus has knit",
        "patience" => "callus has knit and a margin has passed",
        "leafed" => "leaves show", "hand" => "shoots reach a hand", "autumn" => "growth stops",
        "winter" => "the leaves are off",
        "spring" => "fruit sets in the second spring", "failed" => "it was seen dead",
        "moved" => "buds were seen moving", "found" => "it was found", "covered" => "it was covered",
        "slips" => "bark slips",
        "repaired" => "the repair", "scion-died" => "a scion was seen dead",
        "second-spring" => "fruit sets in the second spring",
        "too-late" => "it was seen dead, too late for another graft", "cracked" => "the seal was seen cracked",
        "loose" => "the wrap was seen loose", "biting" => "the tape was seen biting",
        "snapped" => "a shoot was seen snapped", "pests" => "pests were seen", "fruit-seen" => "fruit was seen",
        "stock-seen" => "stock shoots were seen", "heat" => "the first heat", "gale" => "a gale", "frost" => "frost",
        "drought" => "it had been dry for three weeks"
      }.freeze
      BASES = {
        "fact" => "", "seen" => " (seen)", "expected" => " (expected)", "weather" => " (by the weather kept here)",
        "already" => ", as it did when the wound was found", "calendar" => " (by the calendar)",
        "temperature" => " (by the temperatures since)", "temperature-so-far" => " (by the temperatures so far)"
      }.freeze

      # @param reason [Hash] with a +code+ and its figures
      # @return [String]
      def say(reason)
        send("say_#{reason.fetch(:code)}", reason)
      end

      def say_stock_ideal(r) = "#{length(r[:mm])} is in the best range, #{range(r)}."
      def say_stock_workable(r) = "#{length(r[:mm])} is workable; best from #{range(r)}."
      def say_stock_outside(r) = "#{length(r[:mm])} is outside what it works, #{range(r)}."
      def say_scion_ideal(r) = "A stick of #{length(r[:mm])} is in the best range, #{range(r)}."
      def say_scion_workable(r) = "A stick of #{length(r[:mm])} is workable; best from #{range(r)}."
      def say_scion_outside(r) = "A stick of #{length(r[:mm])} is outside what it works, #{range(r)}."
      def say_scion_wanted(r) = "Wants sticks of #{range(r)}."
      def say_needs_slip(_) = "Needs slipping bark, and it does not slip."
      def say_needs_no_slip(_) = "Needs no slipping bark."
      def say_expected_take(r)
        "#{percent(r[:take])} of single sticks take on #{species_name(r[:species]).downcase}, in good conditions."
      end
      def say_own_take(r)
        "Here #{r[:takes]} of #{counted(r[:trials], 'stub')} took with methods like it, so #{percent(r[:take])} are " \
        "reckoned with."
      end
      def say_own_others(r)
        "Nobody tried it here. What was tried took #{format('%.2f', r[:ratio])} times as often as the book says, " \
        "so #{percent(r[:take])} are reckoned with."
      end
      def say_school_prefers(r) = "The #{school_name(r[:school])} school prefers it."
      def say_school_other(r) = "Not a habit of the #{school_name(r[:school])} school."

      def say_sticks_single(_) = "One stick on the best face."
      def say_sticks_pair(r)
        r[:count] == 2 ? "A pair: there is room for two on #{length(r[:wood_mm])} of wood." :
          "One: #{length(r[:wood_mm])} of wood has no room for a pair."
      end
      def say_sticks_ring(r)
        "A ring of #{r[:count]}: one to each hand's breadth round #{length(r[:wood_mm])} of wood."
      end

      def say_faces_upright(r)
        parts = []
        parts << "the flat face at #{r[:flat_deg].round}°" if r[:flat_deg]
        parts << "the wind from #{r[:wind_from_deg].round}°" if r[:wind_from_deg]
        parts.empty? ? "Nothing tells one face from another, so the first stands to the north." :
          "The first stands at #{r[:first_deg].round}° for #{listed(parts)}."
      end

      def say_faces_leaning(r) = "The limb leans (#{r[:rise_deg].round}°), so the sticks sit about its upper side."

      def say_care_after(r)
        if %w[autumn winter spring].include?(r[:after])
          return "By the #{r[:basis] == 'calendar' ? 'calendar' : 'season'} here, from #{day(r[:on])}."
        end

        "#{r[:days].zero? ? 'At once' : "#{counted(r[:days], 'day')} after"} #{EVENTS.fetch(r[:after])} " \
        "on #{day(r[:on])}#{BASES.fetch(r[:basis])}."
      end

      def say_care_when(r)
        point = Core::Rulebook.shipped.book("schools").dig("points", r[:point], "name")
        "#{point}: #{choice_name(r[:point], r[:choice])}."
      end

      def say_care_why(r) = Core::Rulebook.shipped.task(r[:rule])["why"]
      def say_care_answered(r) = "Seen at the visit of #{day(r[:on])}."
      def say_care_put_off(r) = "Put off on #{day(r[:on])} until #{day(r[:until])}#{": #{r[:why]}" if r[:why]}."

      def say_head_under_browse(r)
        "Ends #{length(r[:tip_height_mm])} up, where the animals reach (#{length(r[:lowest_mm])})."
      end
      def say_head_crowds(r) = "Crowds #{r[:other_tag] || 'a larger limb'}: same side, same height."
      def say_head_cuttable(r) = "Can be cut for the school's own methods; carries #{percent(r[:share])} of the head."
      def say_head_damaged(_) = "It is damaged: cut below the damage, or lift it."
      def say_head_nurse(r)
        "Low (ends #{length(r[:tip_height_mm])} up) and carries #{percent(r[:share])}: enough to feed the roots, " \
        "little to miss."
      end
      def say_head_no_cut(r)
        "No place to cut: #{r[:conflict].map { |name| CONFLICTS.fetch(name) }.first}. It can feed the roots."
      end

      def say_plan_all_lifted(r)
        "Every limb (#{listed(r[:tags])}) is to be lifted: nothing would be left to feed the roots. Keep at least " \
        "one to work and one as nurse."
      end
      def say_plan_nothing_worked(_) = "Nothing is to be grafted: give at least one limb the role of work."
      def say_plan_refused(r)
        "#{r[:tag]}: #{r[:variety]} will not live on this stock. #{r[:why]} Choose a variety of near kin."
      end
      def say_plan_protected(r)
        "#{r[:tag]}: #{r[:variety]} is protected and no permission is recorded. Record it in the register, or " \
        "choose another."
      end
      def say_plan_limb_gone(r)
        "#{r[:tag]} is gone since this was planned. Plan another limb in its place, or let it be."
      end
      def say_plan_cut_beyond(r)
        "#{r[:tag]} is #{length(r[:length_mm])} long now; its cut was planned at #{length(r[:cut_mm])}. Choose the " \
        "place again."
      end
      def say_plan_measured_anew(r)
        "#{r[:tag]} was measured anew: #{length(r[:was_mm])} at the cut when it was planned, #{length(r[:now_mm])} " \
        "now. Look at its method and sticks again."
      end
      def say_plan_no_cut(r) = "#{r[:tag]}: #{say_conflict(r[:conflict])}"
      def say_plan_overdue(r)
        "#{r[:tag]} was to be worked in #{r[:season]} and carries no graft: move it to a later season, or decide " \
        "otherwise."
      end
      def say_plan_no_nurse(r)
        "#{r[:have].zero? ? 'No nurse limb is' : "Only #{counted(r[:have], 'nurse limb')} is"} kept; the school " \
        "wants #{r[:wanted] == 1 ? 'one' : 'two'}. A nurse feeds the roots and calms the graft: choose a low limb " \
        "of middling size."
      end
      def say_plan_long_shoots(r)
        "Expect first-year shoots of #{length(r[:shoot_mm])}, over #{length(r[:long_mm])}: they flag and blow out. " \
        "Keep more nurse, work more stubs, or go slower; brace every shoot."
      end
      def say_plan_short_wood(r)
        "#{r[:tag]}: #{r[:variety]} is short of #{counted(r[:short], 'stick')} for #{r[:season]}, and this stub is " \
        "among those to drop first. Find more wood, or move it to a later season."
      end
      def say_plan_doubtful(r)
        "#{r[:tag]}: #{r[:variety]} on this stock is doubtful. #{[r[:why], r[:delayed]].compact.join(' ')}"
      end
      def say_plan_delayed(r) = "#{r[:tag]}: #{r[:variety]} takes here; later: #{r[:delayed]}"

      def say_plan_over_cap(r)
        if r[:tag]
          return "#{r[:tag]} alone carries #{percent(r[:share])} of the head and #{percent(r[:cap])} is the most " \
                 "one season may take. Allow #{percent_up(r[:share])}, or let a side branch of it take over."
        end

        "#{r[:season]} takes #{percent(r[:share])} of the head; #{percent(r[:cap])} is the most one season may. " \
        "Move a limb to another season."
      end

      def say_stages_limb_over_cap(r)
        "#{r[:limb]} alone carries #{percent(r[:share])}: no season can take it under #{percent(r[:cap])}."
      end
      def say_stages_more_seasons(r) = "#{counted(r[:seasons], 'season')} would do."
      def say_stages_not_known(_) = "Whether so few seasons can do was not settled: try one more, or a looser cap."
      def say_stages_higher_cap(r) = "#{percent_up(r[:cap])} a season would do."
      def say_stages_fewer_do(r)
        "There are too few limbs to share out: #{counted(r[:seasons], 'season')} #{r[:seasons] == 1 ? 'is' : 'are'} " \
        "enough."
      end
      def percent_up(share) = "#{Core::Near.ceil(share * 100)} %"

      def say_vigour_keep_more(_) = "Long enough to flag and blow out: keep more nurse, or more stubs."
      def say_vigour_keep_less(_) = "Shorter than an ordinary shoot: keep less nurse, or the grafts sulk."
      def say_vigour_well(_) = "Between an ordinary shoot and one that flags: well balanced."

      # What a pace risks, in a few words.
      def pace_risk(shoot_mm, taken)
        long = orchard.rulebook.value("reckoning.vigour.long_shoot")
        found = []
        found << "shoots that flag and blow out" if shoot_mm && shoot_mm > long
        found << "roots shocked, bark scorched" if taken && taken > orchard.rulebook.value("reckoning.pace.shock")
        found.empty? ? "none that stands out" : listed(found)
      end

      def say_storage_frozen(r)
        "It froze (#{r[:celsius].round(1)} °C): cut into a stick and look for brown before it is used."
      end
      def say_storage_spent(_) = "Its life is spent: throw it out, or test every stick."
      def say_storage_use_first(r) = "#{percent(r[:left])} of its life is left: graft with it before the rest."
      def say_storage_too_warm(r)
        "It is too warm now (#{r[:celsius].round(1)} °C): move it where it is just above freezing."
      end
      def say_storage_was_warm(r)
        "It was warm for a while (#{r[:hours].round} degree-hours): look whether buds swell."
      end
      def say_storage_gap(r) = "#{r[:hours].round} hours without a reading: what happened then is not known."
      def say_wood_unmeasured(_) = "No thermometer tells how it was kept."
      def say_wood_mould(r)
        "Mould was found on #{day(r[:on])}: wipe, dry off, pack drier, and throw out what is soft."
      end
      def say_wood_shrivelled(r) = "It was shrivelled on #{day(r[:on])}: wrap it damper, trim the ends, use it first."
      def say_wood_swelling(r) = "Buds were swelling on #{day(r[:on])}: graft at once, or it is lost."
      def say_wood_frozen(r) = "It was frozen on #{day(r[:on])}: test before it is used."

      def say_match_cut_elsewhere(r)
        "Cut at #{length(r[:at_mm])}, where the limb is #{thickness(r[:stock_mm])}: #{r[:stick]} " \
        "(#{thickness(r[:diameter_mm])}) fits there."
      end
      def say_match_other_method(r)
        "By #{method_name(r[:method]).downcase}, #{r[:stick]} (#{thickness(r[:diameter_mm])}) would do."
      end
      def say_match_more_wood(r) = "Cut or order #{counted(r[:sticks], 'stick')} more."
      def say_match_other_variety(r) = "#{r[:variety]} has wood over (#{r[:stick]}) and lives on this stock."

      # A species' or a tree's spring, in a clause.
      def say_told(told)
        if told[:reached_on]
          return "slips since #{day(told[:reached_on])}" \
                 "#{{ 'calendar' => ', in an ordinary year', 'seen' => ' (seen)' }[told[:basis]]}"
        end
        return "not known" unless told[:p50]

        return "by #{day(told[:p90])}#{' in ordinary years' if told[:basis] == 'calendar'}" if told[:p10] == told[:p90]

        "as likely as not by #{day(told[:p50])}; between #{short_day(told[:p10])} " \
        "and #{short_day(told[:p90])}#{' in ordinary years' if told[:basis] == 'calendar'}"
      end

      def say_tree(told)
        return "no forecast for its kind" if told.basis == "unknown"
        if told.reached_on
          return told.basis == "seen" ? "slips, seen #{short_day(told.reached_on)}" :
            "should slip since #{short_day(told.reached_on)}: test it"
        end

        told.p50 ? "by #{short_day(told.p50)} (#{short_day(told.p10)} to #{short_day(told.p90)})" : "not known"
      end

      def say_flaps_bare(r)
        "The flaps cover only #{percent(r[:covered])} of the faces: take a thinner stick, or cut lower where the " \
        "limb is thicker."
      end
      def say_flaps_lap(r)
        "Each flap is #{format('%.1f', r[:mm])} mm too wide and laps over the next: trim them, or take a thicker stick."
      end
      def say_flaps_not_wood(r)
        "Shaving #{format('%.1f', r[:depth_mm])} mm does not reach wood: leave a narrower strip between the faces."
      end
      def say_flaps_no_face(r)
        "A stick of #{thickness(r[:scion_mm])} is too thin to leave strips of #{thickness(r[:strip_mm])} between faces."
      end

      # An amount of a material, rounded as it is bought.
      def say_amount(item)
        case item[:unit]
        when "piece" then item[:amount].to_i.to_s
        when "m" then orchard.units == "imperial" ? "#{(item[:amount] / 0.3048).ceil} ft" : "#{item[:amount].ceil} m"
        else "#{item[:amount].ceil} #{item[:unit]}"
        end
      end

      # A method that needs no slip, and what changes with it.
      def say_instead(row)
        wanted = row[:scion_wanted_mm]
        "#{method_name(row[:method]).downcase}, dormant or " \
        "awake#{wanted ? ", with sticks of #{thickness(wanted[0])} to #{thickness(wanted[1])}" : ''}; " \
        "#{percent(row[:expected_take])} of single sticks take"
      end

      def say_window_bark_closes_on(r) = "Bark closes about #{short_day(r[:on])}."
      def say_window_heat_on(r) = "Heat, from about #{short_day(r[:on])} in ordinary years here."
      def say_window_wood_ends_on(r) = "The stored wood gives out about #{short_day(r[:on])}."
      def say_window_hardening(_) = "Later, the new shoot would not harden before frost."

      def say_day_slip(r) = "Bark slips with #{percent(r[:likely])} likelihood."
      def say_day_rain(r)
        "#{orchard.units == 'imperial' ? format('%.2f in', r[:mm] / 25.4) : "#{r[:mm].round} mm"} of rain."
      end
      def say_day_gust(r) = "Gusts of #{r[:ms].round} m/s: not on a ladder."
      def say_day_frost(r) = "Frost (#{warmth(r[:celsius])}) on #{short_day(r[:on])}."
      def say_day_callus(_) = "Too cold for callus to grow."

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

      def say_heavy_diameter(r) = "It is #{length(r[:mm])} thick there: heavy enough to tear."
      def say_heavy_share(r) = "#{percent(r[:share])} of the head goes with it."

      def say_beside_stronger(r)
        "grows more strongly than #{r[:other]}: it must be checked, or it takes the tree over"
      end
      def say_beside_weaker(r) = "grows more weakly than #{r[:other]}: give it the upper limbs"

      def say_pattern_gone(_) = "is no longer there"
      def say_pattern_no_limbs(_) = "no limb is surveyed: measure its limbs first"
      def say_pattern_has_plan(_) = "has a plan already, which was left as it is"
      def say_pattern_refused(r) = r[:words]
      def say_pattern_nothing_workable(_) = "no limb offers itself for work: look at it by hand"
      def say_pattern_no_pace(r) = "cannot be shared out over #{counted(r[:seasons], 'season')} or fewer"
      def say_pattern_fewer_seasons(r)
        "in #{counted(r[:made], 'season')}, not #{r[:wished]}: it has too few limbs to share out"
      end
      def say_pattern_no_cut(r) = "#{r[:tag]}: #{say_conflict(r[:conflict])}"

      UNMEASURED = {
        length_mm: "length: where to cut is a guess until it is measured",
        fork_mm: "where it leaves: heights and the animals' reach are guesses",
        bearing_deg: "which way it points: the balance and the drawing are guesses",
        rise_deg: "how steeply it rises: heights and the stick's faces are guesses"
      }.freeze

      CONFLICTS = {
        "clearance" => "the fork takes up the limb's whole length",
        "diameter" => "the limb is nowhere of a diameter the method works",
        "browse" => "the limb is nowhere above what the animals reach",
        "reach" => "the limb is nowhere within your reach"
      }.freeze
      LIMITS = { "clearance" => "clear of the fork", "diameter" => "a diameter the method works",
                 "browse" => "above the animals", "reach" => "within reach" }.freeze
      WAYS_OUT = {
        "clearance" => "cut a side branch instead", "diameter" => "choose another method",
        "browse" => "guard the graft, or keep the limb as a nurse",
        "reach" => "work from a platform, or graft a lower side branch"
      }.freeze

      def say_conflict(names)
        words = names.size == 1 ? CONFLICTS.fetch(names.first) :
          "#{LIMITS.fetch(names[0])} and #{LIMITS.fetch(names[1])} cannot hold together"
        "No place to cut: #{words}. What would help: #{names.map { |name| WAYS_OUT.fetch(name) }.join(', or ')}."
      end

      # What a limit does to the place of the cut, in a few words.
      def say_limit(limit)
        words = LIMITS.fetch(limit[:name])
        limit[:from_mm] ? "#{words}: #{length(limit[:from_mm])} to #{length(limit[:to_mm])} from the fork" :
          "#{words}: nowhere"
      end

      STATES = {
        "knitting" => "knitting", "false-start" => "moved too soon", "waiting" => "should have knit; waiting to move",
        "late" => "late, nothing moving", "growing" => "growing", "failed" => "failed"
      }.freeze

      def say_state(state) = STATES.fetch(state)

      private

      def range(reason)
        reason[:to_mm] ? "#{length(reason[:from_mm])} to #{length(reason[:to_mm])}" : "#{length(reason[:from_mm])} up"
      end
    end
  end
end
